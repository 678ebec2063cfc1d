# frozen_string_literal: true

require "digest"
require "json"

module Vumbral
  module Gas
    # Finer detail after a run (after Kim, Thürey, James & Gross 2008): each frame is read anew on a
    # finer grid, drawn aside by curl noise that the run's own flow carries along (by texture
    # coordinates) and that is as strong as the flow is lively. The run itself stays as it was.
    class Detail
      VERSION = "detail 3"
      # Texture coordinates are laid anew after so many frames, one set half of that after the other.
      SPAN = 24
      DIALS = %i[finer strength scale sharpen sharpen_heat sharpen_fuel].freeze
      SHARPEN = {heat: "sharpen_heat", fuel: "sharpen_fuel"}.freeze
      # How long the smallest rolls are taken to act, seconds.
      ACTS = 0.12
      # What a fine cell takes while it is made, measured: where it looks, and each field once and a half.
      BYTES_PER_CELL = 48

      # @param plan [Plan]; @param meshes [#mesh, #picture] for a texture that says where there is more of it
      def initialize(plan, meshes = nil)
        @plan, @meshes = plan, meshes
        node = plan.document.the(:detail)
        @settings = DIALS.to_h { |dial| [dial.to_s, node[dial]] }
        @first = plan.frames.first
        @sets = Array.new(2)
        @place = nil
      end

      # @return [Boolean] whether the shot wants it for runs of the plan's quality
      def self.on?(plan)
        node = plan.document.the(:detail)
        node[:on] && ["both", plan.quality.to_s].include?(node[:runs])
      end

      # @return [Integer] bytes that refining a frame of the whole chamber takes
      def self.memory(plan)
        on?(plan) ? plan.cells * plan.document.the(:detail)[:finer]**3 * BYTES_PER_CELL : 0
      end

      # @return [Hash{Integer => String}] the key of each refined frame
      def self.keys(plan)
        node = plan.document.the(:detail)
        settings = DIALS.map { |dial| node[dial] }
        plan.keys.to_h do |frame, key|
          [
            frame,
            Digest::SHA256.hexdigest(JSON.generate([VERSION, key, settings, *plan.pattern(node, frame).values]))[0, 32]
          ]
        end
      end

      # Refines the next frame; asked for in order, for the coordinates go along.
      # @param bricks [Grid::Bricks] of the run's frame
      # @param wanted [Boolean] false only carries the coordinates on
      # @return [Grid::Bricks, nil]
      def call(bricks, frame, wanted: true)
        flow = bricks.velocity
        move_to(bricks.origin, bricks.size)
        carry(flow, frame)
        wanted ? refine(bricks, flow, frame) : nil
      end

      private

      # The coordinates cover what the run does; where it comes to new air they begin as places.
      def move_to(origin, size)
        return if @place == [origin, size]

        before, @place = @place, [origin, size]
        @spare = Kernel::Buffer.new(:f32, *size)
        @sets.map! do |set|
          fresh = Grid::VectorField.still(size).tap { |fields| DetailKernels.lay(fields, *origin) }
          shift = before && origin.zip(before[0]).map { |a, b| a - b }
          set&.each&.zip(fresh.each) { |old, new| Flow::CropKernels.paste(new, old, *shift) }
          fresh
        end
      end

      def age(frame, set) = (frame - @first + set * SPAN / 2) % SPAN

      def carry(flow, frame)
        step = @plan.at(frame)["seconds"] / @plan.voxel
        @sets.each_with_index do |set, n|
          next DetailKernels.lay(set, *@place[0]) if age(frame, n).zero?

          3.times do |c|
            DetailKernels.carry(@spare, set[c], flow, step)
            set[c], @spare = @spare, set[c]
          end
        end
      end

      def refine(bricks, flow, frame)
        finer = @settings["finer"]
        size = bricks.size.map { |n| n * finer }
        energy = Kernel::Buffer.new(:f32, *bricks.size)
        DetailKernels.energy(energy, flow)
        where(energy, bricks, frame)
        at = Grid::VectorField.still(size)
        near = around(bricks)
        # A set counts most in the middle of its life, and nothing when it is laid anew.
        part = 0.5 - 0.5 * Math.cos(2 * Math::PI * age(frame, 0) / SPAN)
        DetailKernels.look(
          at, near, energy, *@sets, tile,
          Drawing.new(part, finer.to_f, @settings["strength"] * ACTS / @plan.voxel, @settings["scale"])
        )
        fields = (bricks.channels - %i[pressure]).to_h { |name| [name, read(bricks.field(name), at, size, name)] }
        Grid::Bricks.gather(size, bricks.origin.map { |c| c * finer }, fields)
      end

      # Cells of the run with smoke or heat within two cells of what lies in them.
      # @return [Kernel::Buffer] u8 [z, y, x]
      def around(bricks)
        matter = bricks.field(:smoke)
        Flow::MatterKernels.add_held(matter, bricks.field(:heat), 0.01, Float::MAX)
        near, wide = Array.new(2) { Kernel::Buffer.new(:u8, *bricks.size) }
        DetailKernels.mark(near, matter)
        3.times do |axis|
          DetailKernels.widen(wide, near, axis)
          near, wide = wide, near
        end
        near
      end

      # @return [Kernel::Buffer] f32 [64, 64, 64, 4], small rolls of the shot's own seed
      def tile
        @tile ||= begin
          edge = SwirlKernels::TILE
          potential = Kernel::Buffer.new(:f32, 3, edge, edge, edge)
          SwirlKernels.weave(potential, @plan.ground["seed"] * 41)
          Kernel::Buffer.new(:f32, edge, edge, edge, 4).tap { |tile| SwirlKernels.curl(tile, potential) }
        end
      end

      # Less of it, or none, where a texture says so.
      def where(energy, bricks, frame)
        row = @plan.pattern(@plan.document.the(:detail), frame)["texture"] or return
        first = @plan.corner.zip(bricks.origin.reverse).map { |c, o| c + (o + 0.5) * @plan.voxel }
        Flow::ForceKernels.textured(
          energy, Maps::Patterns.buffer([row], @meshes), Grid::Lattice.new(*first, @plan.voxel)
        )
      end

      # A finer field holds as much as the run's: what is drawn aside and sharpened makes and loses nothing.
      def read(field, at, size, name)
        out = Kernel::Buffer.new(:f32, *size)
        axis = %i[x y z].index(name)
        if axis
          DetailKernels.read_faces(out, field, axis, @settings["finer"].to_f)
          return out
        end
        DetailKernels.read(out, field, at)
        # Age is no amount.
        return out if name == :age

        out = sharpened(out, @settings[SHARPEN.fetch(name, "sharpen")])
        wanted, found = Flow::MatterKernels.total(field) * @settings["finer"]**3, Flow::MatterKernels.total(out)
        Flow::CarryKernels.scale(out, (wanted / found).clamp(0.5, 2.0)) if wanted.positive? && found.positive?
        out
      end

      def sharpened(field, amount)
        return field if amount.zero?

        sharp = Kernel::Buffer.new(:f32, *field.shape)
        DetailKernels.sharpen(sharp, field, amount)
        sharp
      end
    end
  end
end
