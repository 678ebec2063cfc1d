# frozen_string_literal: true

module Vumbral
  RSpec.describe Sculpt::Drift do
    def voxel = 0.1

    def lattice = Grid::Lattice.new(0.05, 0.05, 0.05, voxel)

    # A ball of smoke around a place, metres.
    def ball(x, y, z)
      Sculpt::Field.of(
        field(16, 16, 32) do |k, j, i|
          (Math.sqrt([i, j, k].zip([x, y, z]).sum { |cell, at| (voxel * (cell + 0.5) - at)**2 }) < 0.35) ? 1.0 : 0.0
        end,
        lattice
      ).settled
    end

    # A flow that is the same everywhere, m/s.
    def source(velocity, stands: nil, pace: 1.0, goes: nil)
      flow = Grid::VectorField.new(*velocity.map { |part| Kernel::Buffer.new(:f32, 16, 16, 32).fill(part) })
      described_class::Source.new(flow, lattice, stands, pace, goes)
    end

    def velocity(frame, place)
      flow = frame.bricks.velocity
      i, j, k = place.map { |c| (c / voxel).floor }
      flow.to_a.map { |part| part[k, j, i] }
    end

    it "keeps a run's velocity beside a sculpt that rests, each where it is" do
      frame =
        Sculpt::Frame.of(
          [{density: ball(2.4, 0.8, 0.8)}],
          run: {
            density: ball(0.8, 0.8, 0.8)
          },
          going: [nil, source([1.0, 2.0, -0.5])]
        )
      expect(velocity(frame, [0.8, 0.8, 0.8])).to all_be_near([1.0, 2.0, -0.5], 2e-3)
      expect(velocity(frame, [2.4, 0.8, 0.8])).to all_be_near([0.0, 0.0, 0.0], 2e-3)
      expect(frame.bricks.channels.last(3)).to eq %i[x y z]
    end

    it "takes the mean by density where two lie in each other" do
      frame =
        Sculpt::Frame.of(
          [{density: ball(0.8, 0.8, 0.8)}],
          run: {
            density: ball(0.8, 0.8, 0.8)
          },
          going: [source([0.0, 4.0, 0.0]), source([2.0, 0.0, 0.0])]
        )
      expect(velocity(frame, [0.8, 0.8, 0.8])).to all_be_near([1.0, 2.0, 0.0], 4e-3)
    end

    it "turns it, and takes it at its pace" do
      turned = Geometry::Transform.place(position: [1.6, 0.0, 0.0], turn: [0.0, 0.0, 90.0])
      frame =
        Sculpt::Frame.of(
          [{density: ball(0.8, 0.8, 0.8)}], going: [source([2.0, 0.0, 0.0], stands: turned, pace: -0.5)]
        )
      expect(velocity(frame, [0.8, 0.8, 0.8])).to all_be_near([0.0, -1.0, 0.0], 2e-3)
    end

    it "goes along with what is moved or turned as a whole" do
      # About y, a radian a second, and up.
      goes = [0.0, 0.0, 1.0, 0.0] + [0.0, 0.0, 0.0, 3.0] + [-1.0, 0.0, 0.0, 0.0]
      frame =
        Sculpt::Frame.of(
          [{density: ball(0.8, 0.8, 0.8)}],
          going: [described_class::Source.new(nil, Grid::Lattice.new(0.0, 0.0, 0.0, 1.0), nil, 0.0, goes)]
        )
      expect(velocity(frame, [0.85, 0.75, 0.75])).to all_be_near([0.75, 3.0, -0.85], 5e-3)
    end

    it "is left out where nothing goes" do
      expect(Sculpt::Frame.of([{density: ball(0.8, 0.8, 0.8)}], going: [nil]).bricks.channel?(:x)).to be false
    end

    describe Geometry::Recipes do
      def sculpted(*edits, **dials)
        place = {
          "do" => "add", "kind" => "sculpt", "id" => "again", "name" => "Again",
          "dials" => {"from" => "run"}.merge(dials.transform_keys(&:to_s))
        }
        small_shot(edits: [place, *edits])
      end

      def recipe(document, frame) = Geometry::Recipes.one(document, document.node("again"), frame)

      it "tells how many times as fast a run flows as it was made" do
        expect(recipe(sculpted, 4)).not_to include("flows")
        expect(recipe(sculpted(plays: "speed", speed: -0.25), 4)["flows"]).to eq(-0.25)
        # Run in slow motion, played at once its own pace while the shot's time stands at half.
        slow =
          [[1, 1.0], [4, 0.5]].map do |frame, value|
            {
              "do" => "key", "node" => "chamber", "dial" => "time_scale", "frame" => frame, "value" => value,
              "ease" => "held"
            }
          end
        expect(recipe(sculpted(*slow, shift: 4), 6)["flows"]).to eq 2.0
      end

      it "tells how fast it goes as a whole" do
        keys =
          [[1, [0.0, 0.0, 0.0]], [5, [1.0, 0.0, 0.0]]].map do |frame, value|
            {
              "do" => "key", "node" => "again", "dial" => "moved", "frame" => frame, "value" => value,
              "ease" => "linear"
            }
          end
        expect(recipe(sculpted(*keys), 3)["goes"]).to all_be_near([0.0, 0.0, 0.0, 6.0] + [0.0] * 8, 1e-6)
        expect(recipe(sculpted(*keys), 7)).not_to include("goes")
      end
    end
  end
end
