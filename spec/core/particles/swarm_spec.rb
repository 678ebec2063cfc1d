# frozen_string_literal: true

module Vumbral
  RSpec.describe Particles::Swarm do
    def swarm(**dials)
      emitter = {
        "do" => "add", "kind" => "emitter", "id" => "sparks", "name" => "Sparks",
        "dials" => {"rate" => 240.0, "life" => 1.0, "stir" => 0.0, "drag" => 0.0}.merge(dials.transform_keys(&:to_s))
      }
      described_class.new(Geometry::Throws.new(small_shot(edits: [emitter, set("general", :last, 40)]), "sparks"), nil)
    end

    it "throws as many as the rate says, and lets them die" do
      expect(swarm.alive(10, 9.5).size).to be_between(85, 100)
      expect(swarm(last: 5).alive(38, 37.5)).to eq([])
      expect(swarm(rate: 12.0).alive(20, 19).size).to be_between(7, 10)
    end

    it "falls as gravity says and slows as drag says" do
      row = swarm(speed: 0.0, last: 1, start_size: 0.0).alive(13, 12).first
      age = row[6]
      expect(age).to be_between(0.3, 1.0)
      expect(row[1]).to be_between(0.5 - 9.81 * 0.5 * 0.55**2, 0.5)
      slow, fast = [5.0, 0.0].map { |drag|
        swarm(drag: drag, fall: 0.0, spread: 0.0, speed: 4.0).alive(12, 11).map { |r|
          r[1]
        }.max
      }
      expect(slow).to be < 0.6 * fast
    end

    it "is the same whichever frame is asked for first, and starts on a prop's surface" do
      a, b = swarm(stir: 3.0), swarm(stir: 3.0)
      a.alive(5, 4)
      expect(a.alive(20, 19)).to eq(b.alive(20, 19))
      on = swarm(prop: "prop-1", speed: 0.0, fall: 0.0)
      on.alive(3, 2).each { |x, y, z, *| expect(Math.sqrt(x**2 + (y - 0.22)**2 + z**2)).to be_within(0.01).of(0.22) }
    end
  end
end
