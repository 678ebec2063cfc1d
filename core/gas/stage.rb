# frozen_string_literal: true

module Vumbral
  module Gas
    # Carries out a {Plan}: turns props into grids and steps the solver from frame to frame.
    class Stage
      # @param plan [Plan]
      # @param meshes [#mesh] gives the mesh of a digest
      def initialize(plan, meshes)
        @plan = plan
        @meshes = meshes
        @covers = {}
        @solver = Solver.new(size: plan.size, voxel: plan.voxel, open: plan.open, solid: solid)
      end

      def still = State.still(@plan.size)

      # @param state [State] of the frame before; taken over
      # @return [Array(State, Solver::Report)]
      def advance(state, frame)
        settings = @plan.at(frame)
        @solver.step(state, seconds: settings["seconds"], gas: gas(settings["gas"]), feeds: feeds(settings))
      end

      private

      def gas(numbers)
        {ambient: numbers["ambient"], lift: numbers["lift"], weight: numbers["weight"], curl_boost: numbers["curl_boost"],
         stir: numbers["stir"], stir_cells: numbers["stir_size"] / @plan.voxel, stir_speed: numbers["stir_speed"], seed: @plan.ground["seed"],
         accuracy: numbers["accuracy"], cells_a_substep: numbers["cells"], substeps_least: numbers["substeps_least"],
         substeps_most: [numbers["substeps_most"], numbers["substeps_least"]].max, sharp: numbers["transport"] == "sharp",
         smoke_half_life: half(numbers["smoke_half"]), heat_half_life: half(numbers["heat_half"])}
      end

      def half(seconds) = seconds.positive? ? seconds : nil

      def feeds(settings)
        seed = @plan.ground["seed"]
        settings["sources"].each_with_index.map do |source, index|
          Solver::Feed.new(cover: cover(source), smoke: source["smoke"], strength: source["strength"],
            heat: source["heats"] ? source["temperature"] - settings["gas"]["ambient"] : nil,
            breakup: source["breakup"], breakup_cells: source["breakup_size"] / @plan.voxel, breakup_speed: source["breakup_speed"],
            seed: seed * 97 + index)
        end
      end

      # How much of each cell a source feeds, 0 to 1.
      def cover(source)
        skin = (source["from"] == "surface") ? source["skin"] * @plan.voxel : 0.0
        @covers[[source["prop"], skin]] ||= begin
          distance = distance_to(source["prop"], [skin, @plan.voxel].max + 2 * @plan.voxel)
          field = Kernel::Buffer.new(:f32, *@plan.size)
          ShapeKernels.cover(field, distance, skin, 1.0 / @plan.voxel)
          field
        end
      end

      def solid
        field = Kernel::Buffer.new(:u8, *@plan.size)
        @plan.solids.each { |prop| ShapeKernels.mark(field, distance_to(prop, 2 * @plan.voxel)) }
        field
      end

      def distance_to(prop, band)
        mesh = Geometry::Shapes.world(prop, @meshes)
        bvh = Geometry::BVH.new(mesh)
        field = Kernel::Buffer.new(:f32, *@plan.size)
        x, y, z = @plan.corner.map { |c| c + 0.5 * @plan.voxel }
        Geometry::BVHKernels.signed_distance(field, *bvh.arrays, x, y, z, @plan.voxel, band, mesh.closed?)
        field
      end
    end
  end
end
