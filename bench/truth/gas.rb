# frozen_string_literal: true

module Vumbral
  module Truth
    # Small gases to measure.
    module Gas
      SIDES = Vumbral::Gas::Plan::SIDES

      module_function

      def field(*size)
        values = Array.new(size.reduce(:*)) do |n|
          k, rest = n.divmod(size[1] * size[2])
          j, i = rest.divmod(size[2])
          yield(k, j, i)
        end
        Kernel::Buffer.of(:f32, values, *size)
      end

      def still(*size) = Kernel::Buffer.new(:f32, *size)

      def ball(n, middle, radius, value = 1.0)
        field(n, n, n) { |k, j, i|
          (Math.sqrt([k, j, i].zip(middle).sum { |a, b|
            (a - b)**2
          }) <= radius) ? value : 0.0
        }
      end

      # A solid turn about the middle, once in a second; sides of one metre.
      def turn(n)
        [field(n, n, n + 1) { |_, j, _| -2 * Math::PI * ((j + 0.5) / n - 0.5) },
          field(n, n + 1, n) { |_, _, i| 2 * Math::PI * ((i + 0.5) / n - 0.5) }, still(n + 1, n, n)]
      end

      def total(field) = Flow::MatterKernels.total(field)

      # Kinetic energy of the state in (m/s)² cells.
      def energy(state) = [state.u, state.v, state.w].sum { |faces| faces.to_a.sum { |a| a * a } }

      def solver(n, voxel, open)
        Vumbral::Gas::Solver.new(size: [n, n, n], voxel: voxel, open: SIDES.to_h { |side|
          [side, open.respond_to?(:include?) ? open.include?(side) : open]
        })
      end

      def feed(cover, **changes)
        Vumbral::Gas::Feed.new(
          cover: cover, smoke: 1.0, strength: 1.0, breakup: 0.0, breakup_cells: 5.0, breakup_speed: 2.0, seed: 1,
          **changes
        )
      end

      # A shot, frame by frame. @yield [frame, state, report]
      # @param factor [Float] voxels so many times as large as those of its full run
      # @param meshes [#mesh, nil] of what it stands on
      def run(document, factor, last, meshes = nil)
        edits = [["chamber", "voxel", document.the(:chamber)[:voxel] * factor],
          ["general", "last", [last, document.last_frame].max]]
        document = Shot::Edits.apply(document, edits.map { |node, dial, value|
          {"do" => "set", "node" => node, "dial" => dial, "value" => value}
        })[0]
        plan = Vumbral::Gas::Plan.new(document, :full)
        stage = Vumbral::Gas::Stage.new(plan, meshes)
        state = stage.still
        (document.first_frame..last).each do |frame|
          state, report = stage.advance(state, frame)
          yield frame, state, report, plan.voxel
        end
      end

      # What a field sums up to in each layer of the height.
      def layers(field)
        nz, ny, nx = field.shape
        values = field.to_a
        Array.new(ny) { |j| (0...nz).sum { |k| values[(k * ny + j) * nx, nx].sum } }
      end
    end
  end
end
