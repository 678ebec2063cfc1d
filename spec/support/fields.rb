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
    def calm(**changes)
      {ambient: 293.0, lift: 0.0, weight: 0.0, curl_boost: 0.0, stir: 0.0, stir_cells: 8.0, stir_speed: 1.0, seed: 1, smoke_half_life: nil,
       heat_half_life: nil, accuracy: 1e-5, substeps_least: 1, substeps_most: 1, cells_a_substep: 4.0, sharp: true}.merge(changes)
    end

    # Divergence in the worst fluid cell, relative to the top speed.
    def relative_divergence(state, solid)
      Gas::FlowKernels.leftover(state.u, state.v, state.w, solid) / state.speed
    end
  end
end
