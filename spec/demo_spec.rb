# frozen_string_literal: true

module Vumbral
  RSpec.describe Demo::Maker do
    # The demo's shots, coarse and short.
    def maker(workshop)
      described_class.new(workshop) do |job, _|
        row = work(workshop, job)
        raise row[:error] if row[:error]

        JSON.parse(row[:result])
      end
    end

    it "makes shots that run and print, once, and does not bring back what was thrown away" do
      stub_const("Vumbral::Demo::Maker::SHOTS", described_class::SHOTS.map do |shot|
        Module.new do
          define_singleton_method(:meshes) { shot.meshes }
          define_singleton_method(:edits) do |mesh|
            shot.edits(mesh) + [["general", "last", 10], ["chamber", "draft", 5.0], ["picture", "width", 160], ["picture", "height", 90]].map { |n, d, v| {"do" => "set", "node" => n, "dial" => d, "value" => v} }
          end
          const_set(:ID, shot::ID)
          const_set(:NAME, shot::NAME)
          const_set(:PRINT, 9)
        end
      end)
      with_workshop do |workshop|
        expect(maker(workshop).call).to eq(["Kiln draw", "Lid burst", "Morning yard"])
        described_class::SHOTS.each do |shot|
          expect(workshop.runs.state(shot::ID, "draft")[:rows].map { |row| [row[:state], row[:lit]] }.uniq).to eq([["fresh", true]])
          expect(workshop.prints.list(shot::ID).size).to eq(1)
        end
        workshop.shots.delete("morning-yard")
        expect(maker(workshop).call).to eq([])
        expect(workshop.shots.list.map { |row| row[:id] }).to contain_exactly("kiln-draw", "lid-burst")
      end
    end

    it "goes on where it was interrupted" do
      with_workshop do |workshop|
        stub_const("Vumbral::Demo::Maker::SHOTS", [Demo::MorningYard])
        expect { described_class.new(workshop) { |_, _| raise "stopped" }.call }.to raise_error("stopped")
        expect(workshop.shots.list.size).to eq(1)
        again = described_class.new(workshop) { |job, _| workshop.jobs.finish(job) }
        allow(workshop.prints).to receive(:take).and_return(1)
        expect(again.call).to eq(["Morning yard"])
        expect(workshop.shots.list.size).to eq(1)
      end
    end
  end
end
