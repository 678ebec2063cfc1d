# frozen_string_literal: true

module Vumbral
  # Making and comparing buffers.
  module Fields
    # @yield [k, j, i] the value of each element
    def field(*shape, type: :f32)
      buffer = Kernel::Buffer.new(type, *shape)
      numbers = indices(shape).map { |index| yield(*index) }
      buffer.replace(Kernel::Buffer.of(type, numbers, *shape))
    end

    def random_field(*shape, type: :f32, seed: 1, range: -1.0..1.0)
      random = Random.new(seed)
      field(*shape, type: type) { random.rand(range) }
    end

    def indices(shape)
      shape.map { |n| (0...n).to_a }.reduce([[]]) { |all, axis| all.flat_map { |index| axis.map { |n| index + [n] } } }
    end

    def largest_difference(a, b)
      a, b = [a, b].map { |x| x.respond_to?(:to_a) ? x.to_a : x }
      a.zip(b).map { |x, y| (x - y).abs }.max
    end

    # A uniform, still gas with all sides as given.
    def sides(open) = Gas::Plan::SIDES.to_h { |side| [side, open.is_a?(Array) ? open.include?(side) : open] }

    # What a step needs, with nothing going on.
    def calm(**changes) = Gas::Settings.calm(accuracy: 1e-5, **changes)

    # Divergence in the worst fluid cell, relative to the top speed.
    def relative_divergence(state, solid)
      flow = Kernel::Buffer.new(:f32, *state.size)
      Flow::FlowKernels.inflow(flow, state.u, state.v, state.w)
      Grid::PoissonKernels.blank(flow, solid)
      Flow::FlowKernels.peak(flow) / state.speed
    end
  end
end
