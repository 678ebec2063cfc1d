# frozen_string_literal: true

require_relative "torturer"

module Vumbral
  # Each trial for a moment, so that it works when it is needed; `bin/torture` takes its time.
  RSpec.describe Torture do
    around { |example| Dir.mktmpdir { |dir| (@dir = dir) && example.run } }

    it "mutates files: whatever is read can be read again, whatever is not is refused in a sentence" do
      trial = Torture::Files.new(@dir, Random.new(11), 4.0)
      expect(trial.call).to eq([])
      expect(trial.words).to match(/\A\d{2,} mutations/)
    end

    it "mutates in the same way from the same seed" do
      once, again = Array.new(2) { Torture::Files.new(Dir.mktmpdir(nil, @dir), Random.new(5), 0) }
      expect(Array.new(50) { once.send(:mutated, "v 1 2 3\nf 1 2 3\n".b) }).to eq(
        Array.new(50) { again.send(:mutated, "v 1 2 3\nf 1 2 3\n".b) }
      )
    end

    it "lets two edit at once" do
      trial = Torture::Editors.new(@dir, Random.new(3), 3.0)
      expect(trial.call).to eq([])
      expect(trial.words).to match(/\A[1-9]\d* edits of two windows kept/)
    end

    it "pulls the plug" do
      trial = Torture::Kills.new(@dir, Random.new(2), 5.0)
      expect(trial.call).to eq([])
      expect(trial.words).to match(/\A[1-9]\d* kills/)
    end

    it "fills a small disk" do
      trial = Torture::Disk.new(@dir, Random.new(4), 4.0)
      expect(trial.call).to eq([])
      expect(trial.words).to match(/filled|takes root/)
    end

    it "kills workers of other machines, and the Redis that calls them" do
      trial = Torture::Farm.new(@dir, Random.new(6), 6.0, prints: 10, runs: 3)
      expect(trial.call).to eq([])
      expect(trial.words).to match(/\A10 prints and 3 runs by [1-3] machines|needs redis/)
    end

    it "says its seed, and what failed" do
      stub_const("#{described_class}::Torturer::TRIALS", {"files" => Struct.new(:home, :random, :seconds) do
        def call = ["a frame was lost"]

        def words = "tried"
      end})
      output = StringIO.new
      expect(Torture::Torturer.new(%w[--seed 9 --minutes 1], output: output).call).to be(false)
      expect(output.string).to eq(
        "Seed 9, 1.0 minutes: files\nfiles: tried\nFAILED: files: a frame was lost\n1 failed; run again with --seed " \
          "9.\n"
      )
    end
  end
end
