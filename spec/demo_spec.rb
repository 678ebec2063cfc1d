# frozen_string_literal: true

module Vumbral
  RSpec.describe Demo::Maker do
    it "hangs up shots with their prints, asks for their frames in the background, once, and does not bring back " \
      "what was let go" do
      stub_const("Vumbral::Demo::Maker::SHOTS", described_class::SHOTS.map do |shot|
        Module.new do
          define_singleton_method(:meshes) { shot.meshes }
          define_singleton_method(:pictures) { shot.pictures } if shot.respond_to?(:pictures)
          define_singleton_method(:drawings) { shot.drawings } if shot.respond_to?(:drawings)
          define_singleton_method(:plates) { shot.plates } if shot.respond_to?(:plates)
          define_singleton_method(:tables) { shot.tables } if shot.respond_to?(:tables)
          define_singleton_method(:edits) do |mesh|
            shot.edits(mesh) +
              [
                ["general", "last", 10], ["chamber", "draft", 5.0], ["picture", "width", 160], ["picture", "height", 90]
              ].map { |n, d, v| {"do" => "set", "node" => n, "dial" => d, "value" => v} }
          end
          const_set(:ID, shot::ID)
          const_set(:NAME, shot::NAME)
          const_set(:PRINT, 9)
        end
      end)
      with_workshop do |workshop|
        maker = described_class.new(workshop)
        names = [
          "Kiln draw", "Lid burst", "Morning yard", "Clay cloud", "Fair sign", "Paper leaf", "Broken bowls",
          "Down the flue", "Eaten tile", "Burner", "Quench", "Trough kick", "Glaze fill", "Lantern", "Carried torch",
          "Into the vat", "Vat splash"
        ]
        expect(maker.call).to eq(names)
        expect(workshop.shots.list.map { |row| row[:name] }).to eq(names)
        jobs = workshop.jobs.active
        expect(jobs.map { |job| [job[:shot_id], job[:background]] }).to eq(
          [
            ["kiln-draw", true], ["lid-burst", true], ["morning-yard", true], ["fair-sign", true], ["paper-leaf", true],
            ["broken-bowls", true], ["burner", true], ["quench", true], ["trough-kick", true], ["glaze-fill", true], ["carried-torch", true], ["vat-splash", true]
          ]
        )
        expect(work(workshop, jobs.find { |job| job[:shot_id] == "paper-leaf" }[:id])).to include(state: "done")
        expect(workshop.runs.state("paper-leaf", "draft")[:rows].map { |row| row[:state] }.uniq).to eq(["fresh"])
        described_class::SHOTS.each { |shot| expect(workshop.prints.list(shot::ID).size).to eq(1) }
        workshop.shots.take_away("morning-yard")
        workshop.shots.let_go("morning-yard")
        expect(described_class.new(workshop).call).to eq([])
        expect(workshop.shots.list.map { |row| row[:id] }).to contain_exactly(
          "kiln-draw", "lid-burst", "clay-cloud", "fair-sign", "paper-leaf", "broken-bowls", "down-the-flue", "eaten-tile",
          "burner", "quench", "trough-kick", "glaze-fill", "lantern", "carried-torch", "into-the-vat", "vat-splash"
        )
      end
    end

    it "goes on where it was interrupted" do
      with_workshop do |workshop|
        stub_const("Vumbral::Demo::Maker::SHOTS", [Demo::MorningYard])
        allow(workshop.prints).to receive(:keep).and_raise("stopped")
        expect { described_class.new(workshop).call }.to raise_error("stopped")
        expect(workshop.shots.list.size).to eq(1)
        allow(workshop.prints).to receive(:keep).and_call_original
        expect(described_class.new(workshop).call).to eq(["Morning yard"])
        expect(workshop.shots.list.size).to eq(1)
      end
    end
  end
end
