# frozen_string_literal: true

module Vumbral
  # A camera found again from where it saw things.
  RSpec.describe Finish::Sighting do
    include FinishHelp

    let(:shape) { 16 / 9.0 }
    let(:frames) { (1..12).to_a }

    # A hand-held camera, or one on a tripod.
    def camera(frame, still: false, focal: 35.0)
      sway = ->(by) { Math.sin(0.5 * frame + by) }
      place = still ? [0.4, 1.5, 6.0] : [0.4 + 0.2 * sway[0.0], 1.5 + 0.1 * sway[1.0], 6.0 - 0.08 * frame]
      {
        "position" => place, "target" => [0.1 * frame, 1.0 + 0.1 * sway[2.0], 0.0], "roll" => 3.0 * sway[0.7],
        "focal" => focal, "aperture" => 0.0
      }
    end

    def places
      rng = Random.new(4)
      Array.new(10) { |n| ["p#{n}", [4.0 * rng.rand - 1.5, 2.4 * rng.rand, 3.0 * rng.rand - 2.0]] }.to_h
    end

    # Where a camera sees them, a little off.
    def spots(noise: 0.0, **how)
      rng = Random.new(7)
      places.transform_values do |place|
        frames.to_h do |frame|
          [
            frame,
            Finish::Spots.seen(camera(frame, **how), place, shape).first(2).map { |c| c + noise * (rng.rand - 0.5) }
          ]
        end
      end
    end

    def solve(spots, known, from: 1, start: camera(from), **how)
      Finish::Sighting.new(shape, free: true, **how).solve(spots, known, from, Finish::Sighting::Eye.of(start), frames)
    end

    it "tells a camera by its place, where it looks and how it leans" do
      eye = Finish::Sighting::Eye.of(camera(3))
      far = Math.sqrt(camera(3).values_at("target", "position").transpose.sum { |a, b| (a - b)**2 })
      target, roll = eye.look(far)
      expect(target).to all_be_near(camera(3)["target"], 1e-5)
      expect(roll).to be_within(1e-4).of(camera(3)["roll"])
      down =
        Finish::Sighting::Eye.of(
          {"position" => [0.0, 2.0, 0.0], "target" => [0.0, 0.0, 0.0], "focal" => 35.0, "aperture" => 0.0}
        )
      expect(down.look(2.0)[0]).to all_be_near([0.0, 0.0, 0.0], 1e-6)
    end

    it "finds one that goes about from places that are known" do
      found = solve(spots, places, start: camera(4), from: 4)
      frames.each do |frame|
        expect(found.eyes[frame].place).to all_be_near(camera(frame)["position"], 1e-4)
        expect(found.eyes[frame].look(1.0)[1]).to be_within(1e-2).of(camera(frame)["roll"])
      end
      expect(found.off).to be < 1e-5
    end

    it "comes within a centimetre where spots are a fifth of a pixel off" do
      found = solve(spots(noise: 0.4 / 1920), places)
      frames.each { |frame| expect(found.eyes[frame].place).to all_be_near(camera(frame)["position"], 0.01) }
      expect(found.off * 1080).to be_between(0.05, 0.4)
    end

    it "leaves out a spot that has slipped, and says on which frames" do
      slipped = spots
      slipped["p3"][6] = slipped["p3"][6].map { |c| c + 0.08 }
      found = solve(slipped, places)
      expect(found.wrong).to eq("p3" => [6])
      expect(found.eyes[6].place).to all_be_near(camera(6)["position"], 1e-4)
    end

    it "turns one on a tripod by spots of which nothing is known, some of which come into sight later" do
      seen = spots(still: true)
      seen["p0"].reject! { |frame, _| frame < 5 }
      seen["p1"].reject! { |frame, _| frame > 8 }
      found = solve(seen, {}, free: false, from: 2, start: camera(2, still: true))
      frames.each do |frame|
        expect(found.eyes[frame].place).to eq([0.4, 1.5, 6.0])
        expect(found.eyes[frame].look(1.0)[0]).to all_be_near(
          Finish::Sighting::Eye.of(camera(frame, still: true)).look(1.0)[0], 1e-4
        )
      end
      expect(found.off).to be < 1e-5
    end

    it "finds a zoom too, and does without frames on which too little is seen" do
      seen =
        places.to_h do |name, place|
          [
            name,
            frames.to_h do |frame|
              [frame, Finish::Spots.seen(camera(frame, focal: 30.0 + frame), place, shape).first(2)]
            end
          ]
        end
      seen.each_value { |at| at.delete(7) }
      found = solve(seen, places, zooms: true, start: camera(1, focal: 31.0))
      expect(found.eyes.keys).to eq(frames - [7])
      found.eyes.each { |frame, eye| expect(eye.focal).to be_within(0.01).of(30.0 + frame) }
    end
  end
end
