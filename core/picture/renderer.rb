# frozen_string_literal: true

module Vumbral
  module Picture
    # Makes pictures: props and smoke through the shot's camera, as linear light.
    class Renderer
      SENSOR = 36.0
      # Marks lamps that only props shade.
      PROPS_ONLY = 0.4
      # Directions in which a view is told of the horizon.
      HORIZON = 32
      # Voxels a step at most, smooth and in a draft.
      PACE = {"smooth" => 0.5, "straight" => 0.8}.freeze

      # @param settings [Hash] from {.settings}
      # @param meshes [#mesh]
      def initialize(settings, meshes)
        @settings = settings
        @rig = Light::Rig.new(settings["rig"])
        @scene = PropScene.new(settings["props"], meshes)
        @film = Film.new(settings["film"])
      end

      # @return [Hash] plain data: all that a picture of a frame depends on besides the volume
      def self.settings(document, frame)
        camera, picture = document.the(:camera), document.the(:picture)
        {"rig" => Light::Rig.settings(document, frame), "props" => PropScene.settings(document, frame),
         "camera" => %i[position target focal].to_h { |dial| [dial.to_s, camera[dial, frame]] },
         "film" => Film::DIALS.to_h { |dial| [dial.to_s, picture[dial, frame]] },
         "behind" => picture[:behind], "between" => picture[:between]}
      end

      # What a view that draws by itself needs besides volumes and props, as plain numbers.
      # @return [Hash] "rig", "camera", "horizon", "sky" and "film" as kernels take them ({SkyKernels}, {FilmKernels})
      def self.scene(document, frame)
        settings = settings(document, frame)
        sky = background(settings)
        settings.slice("rig", "camera").merge("sky" => sky.to_a, "horizon" => horizon(sky), "film" => Film.new(settings["film"]).numbers.to_a)
      end

      # Into which far things go over, all around from +z by +x: red, green, blue in turn.
      # @return [Array<Float>]
      def self.horizon(sky)
        Array.new(HORIZON) { |n| 2 * Math::PI * n / HORIZON }.flat_map { |turn| Light::SkyKernels.radiance(sky, Math.sin(turn), 0.0, Math.cos(turn)) }
      end

      # The sky as it stands behind everything; one colour unless the picture shows it.
      # @return [Kernel::Buffer]
      def self.background(settings)
        sky = Light::Sky.of(settings["rig"]["sky"])
        return sky if settings["behind"] == "sky"

        sky.copy.tap { |plain| plain[7] = 0.0 }
      end

      # @param medium [Medium, nil] the smoke, where there is some
      # @param without_props [Boolean] leave the props out of sight; they still shade
      # @param sparks [Kernel::Buffer, nil] from {Sparks#at}
      # @return [Kernel::Buffer] f32 [height, width, 4]: red, green, blue, alpha over nothing
      def image(medium, width, height, without_props: false, sparks: nil)
        medium ||= Light::Medium.new(Kernel::Buffer.new(:f32, 2, 2, 2), 1.0, [0.0, 0.0, 0.0])
        view = view(width, height)
        fire = medium.fire(@rig)
        lit = lit(medium, fire)
        hits = surfaces(medium, fire, lit, view, without_props)
        image = Kernel::Buffer.new(:f32, height, width, 4)
        MarchKernels.march(image, hits, view, filled(medium, fire, lit), paint, @rig.lamps, Light::BlackBody.table, medium.lattice)
        if sparks&.dim(0)&.positive?
          SparkKernels.sparks(image, hits, view, sparks, medium.smoke, @rig.thickness, medium.lattice)
        end
        image
      end

      # @return [Kernel::Buffer] u8 [height, width, 3], ready for a screen
      def develop(image)
        behind = Kernel::Buffer.new(:f32, image.dim(0), image.dim(1), 3)
        SurfaceKernels.behind(behind, view(image.dim(1), image.dim(0)), background)
        @film.develop(image, behind)
      end

      # @return [Kernel::Buffer] u8 [height, width, 4], with alpha and no background
      def cut_out(image) = @film.cut_out(image)

      private

      # Far props go over into the same that stands behind them.
      def background = @background ||= Renderer.background(@settings)

      # Kept for the next picture of the same volume.
      def lit(medium, fire)
        return @lit[1] if @lit && @lit[0].equal?(medium)

        @lit = [medium, medium.lit(@rig, @scene, fire)]
        @lit[1]
      end

      def filled(medium, fire, lit)
        smooth = @settings["between"] == "smooth"
        ready = ->(field) { smooth ? Grid::Spline.of(field) : field }
        smoke = ready.call(medium.smoke)
        heat = fire ? ready.call(medium.heat) : smoke
        busy = Kernel::Buffer.new(:u8, *smoke.shape.map { |n| (n + MarchKernels::BLOCK - 1) / MarchKernels::BLOCK })
        MarchKernels.mark(busy, smoke, heat, !fire.nil?, @rig.fire["from"] - @rig.fire["ambient"])
        Filled.new(smoke, heat, lit.depths, lit.soft, lit.skylight.shut, medium.tint || lit.soft, busy, !fire.nil?, !medium.tint.nil?, smooth,
          PACE.fetch(@settings["between"]))
      end

      def paint
        fire = @rig.fire
        Paint.new(@rig.thickness, @rig.thickness * @rig.shadow, *@rig.albedo, @rig.forward, @rig.back, @rig.back_share,
          *fire.values_at("gain", "from", "offset", "rise", "ambient"))
      end

      def surfaces(medium, fire, lit, view, without_props)
        height, width = view[13].to_i, view[12].to_i
        hits = Kernel::Buffer.new(:f32, height, width, 16)
        return hits.fill(MarchKernels::NONE) if without_props || @scene.empty?

        glance = Glance.new(Kernel::Buffer.new(:f32, height, width), Kernel::Buffer.new(:i32, height, width))
        SurfaceKernels.look(glance.depth, glance.seen, view, @scene.record)
        air = Air.new(medium.smoke, lit.skylight.up, @rig.thickness * @rig.shadow)
        SurfaceKernels.surfaces(hits, glance, view, @scene.record, lamps(fire), background, air, medium.lattice)
        hits
      end

      # The shot's lamps and those that stand for the fire, which smoke does not dim on props.
      def lamps(fire)
        return @rig.lamps unless fire && fire.lamps.dim(0).positive?

        rows = fire.lamps.to_a.each_slice(8).map { |row| [1.0 + 1.5 * row[7], *row[1, 6], PROPS_ONLY] }
        Kernel::Buffer.of(:f32, @rig.lamps.to_a + rows.flatten, @rig.lamps.dim(0) + rows.size, 8)
      end

      # Place, forward, right and up of the camera, the last two as long as half the picture.
      def view(width, height)
        position, target = @settings["camera"]["position"], @settings["camera"]["target"]
        forward = unit(target.zip(position).map { |a, b| a - b }, [0.0, 0.0, -1.0])
        right = unit(cross(forward, [0.0, 1.0, 0.0]), [1.0, 0.0, 0.0])
        up = cross(right, forward)
        half = 0.5 * SENSOR / @settings["camera"]["focal"]
        Kernel::Buffer.of(:f32, position + forward + right.map { |c| c * half } + up.map { |c| c * half * height / width } + [width.to_f, height.to_f])
      end

      def unit(vector, otherwise)
        length = Math.sqrt(vector.sum { |c| c * c })
        (length < 1e-9) ? otherwise : vector.map { |c| c / length }
      end

      def cross(a, b) = [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]]
    end
  end
end
