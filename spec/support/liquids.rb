# frozen_string_literal: true

module Vumbral
  # Liquids of a given shape, for specs.
  module Liquids
    # @param size [Array<Integer>] cells along z, y, x
    # @yield [x, y, z] how far a place lies outside of the liquid, cells
    # @return [Array(Liquid::Solver, Liquid::State)]
    def poured(size, voxel, walls: Liquid::Walls.none(size), loose: 0.0, open: {}, band: 0, &far)
      solver = Liquid::Solver.new(size: size, voxel: voxel, open: open, band: band)
      solver.block(walls)
      state = Liquid::State.empty(size)
      solver.sort(state)
      slots = Kernel::Buffer.new(:u8, size.reduce(:*), 8)
      shape = field(*size) { |k, j, i| far.call(i + 0.5, j + 0.5, k + 0.5) }
      drops =
        Liquid::Drops.of(Liquid::FullKernels.free(slots, shape, state.drops, solver.first, walls.far, 1.0, 1.0, 1))
      Liquid::FullKernels.put(drops, slots, Grid::VectorField.still(size), 1.0, loose, 1, 0.0)
      state.pour(drops)
      [solver, state]
    end

    # @yield [x, y, z] how far a corner lies outside of walls, cells
    # @return [Liquid::Walls]
    def walls_of(size, grip: 0.0)
      walls = Liquid::Walls.none(size)
      walls.far.replace(field(*size.map { |n| n + 1 }) { |k, j, i| yield(i, j, k).clamp(-8.0, 8.0) })
      walls.grip.fill(grip)
      walls
    end

    # Goes on for some seconds, a frame of 1/48 s at a time.
    def flow(solver, state, seconds, liquid = Liquid::Settings.still)
      (48 * seconds).round.times do
        count, = Liquid::Solver.substeps(state.speed, 1 / 48.0, solver.voxel, liquid)
        count.times do
          solver.renew(state)
          solver.substep(state, 1 / 48.0 / count, liquid)
        end
        yield if block_given?
      end
    end

    # @return [Array<Array<Float>>] where particles are, cells
    def places(state) = state.drops.at.to_a.each_slice(3).to_a

    def middle(state) = places(state).transpose.map { |c| c.sum / c.size }

    def water(**dials) =
      {
        "do" => "add",
        "kind" => "liquid",
        "name" => "Water",
        "id" => "liquid",
        "dials" => {"size" => [0.4, 0.4, 0.4], "voxel" => 0.05, "draft" => 1.0, "line" => 0.15}.merge(
          dials.transform_keys(&:to_s)
        )
      }

    def surface(**dials) =
      {
        "do" => "add", "kind" => "prop", "name" => "Surface", "id" => "water",
        "dials" => {"shape" => "liquid"}.merge(dials.transform_keys(&:to_s))
      }

    # A small shot with a liquid and nothing else.
    def small_water(edits: [], **dials)
      Shot::Edits.apply(
        Studio::Starters.bare("Little pool"),
        edits +
          [
            water(**dials), surface, {"do" => "set", "node" => "general", "dial" => "last", "value" => 6},
            {"do" => "set", "node" => "picture", "dial" => "width", "value" => 96},
            {"do" => "set", "node" => "picture", "dial" => "height", "value" => 54}
          ]
      )[
        0
      ]
    end
  end
end
