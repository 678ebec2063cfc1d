# frozen_string_literal: true

module Vumbral
  module Picture
    # Makes pictures: props and smoke through the shot's camera, as linear light.
    class Renderer
      # Directions in which a view is told of the horizon.
      HORIZON = 32
      # Voxels a step at most, smooth and in a draft.
      PACE = {"smooth" => 0.5, "straight" => 0.8}.freeze

      # @param settings [Hash] from {.settings}
      # @param meshes [#mesh]
      # @param before [Renderer, nil] whose props serve again where they are the same
      def initialize(settings, meshes, before: nil)
        @settings = settings
        @rig = Light::Rig.new(settings["rig"], meshes)
        @meshes = meshes
        @scene, @panes, @shade = before&.scenes(settings["props"]) || scenes_of(settings["props"])
        @camera = Camera.new(settings["camera"])
        @film = Film.new(settings["film"])
        @haze = Light::Haze.new(settings["haze"], @rig, meshes)
      end

      # @return [Hash] plain data: all that a picture of a frame depends on besides the volume
      def self.settings(document, frame)
        picture = document.the(:picture)
        {"rig" => Light::Rig.settings(document, frame), "props" => PropScene.settings(document, frame),
         "camera" => Camera.settings(document, frame), "haze" => Light::Haze.settings(document, frame),
         "film" => Film.settings(document, frame),
         "behind" => picture[:behind], "between" => picture[:between], "caustics" => picture[:caustics]}
      end

      # @param settings [Hash] @return [Hash] the same without blur, for pictures that are only looked over
      def self.sharp(settings) =
        settings.merge("camera" => settings["camera"].merge("refined" => false, "shutter" => 0.0, "aperture" => 0.0))

      # What a view that draws by itself needs besides volumes and props, as plain numbers.
      # @return [Hash] "rig", "camera", "horizon", "sky" and "film" as kernels take them ({SkyKernels}, {FilmKernels})
      def self.scene(document, frame, meshes = nil)
        settings = settings(document, frame)
        sky = background(settings, meshes, small: true)
        lamps = Light::Rig.new(settings["rig"], meshes).lamps
        rows = lamps.to_a.each_slice(lamps.dim(1)).map { |row| row.first(Light::Lamps::WIDTH) }
        shape = document.the(:picture).then { |picture| picture[:height].fdiv(picture[:width]) }
        rig = settings["rig"].merge("lamps" => rows.partition { |row| row[Light::LampKernels::SIZE] <= 0.0 }.flatten(1))
        {"rig" => rig}.merge(
          "camera" => settings["camera"].merge("sharp" => Camera.new(settings["camera"]).sharp, "shape" => shape),
          "sky" => sky.to_a.map { |value| value.zero? ? 0.0 : value.round(6 - Math.log10(value.abs).floor) },
          "horizon" => horizon(sky), "film" => Film.new(settings["film"]).numbers.to_a
        )
      end

      # Into which far things go over, all around from +z by +x: red, green, blue in turn.
      # @return [Array<Float>]
      def self.horizon(sky)
        Array.new(HORIZON) { |n| 2 * Math::PI * n / HORIZON }.flat_map { |turn|
          Light::SkyKernels.radiance(sky,
            Math.sin(turn), 0.0, Math.cos(turn))
        }
      end

      # The sky as it stands behind everything; one colour unless the picture shows it.
      # @return [Kernel::Buffer]
      def self.background(settings, meshes = nil, small: false)
        sky = Light::Sky.of(settings["rig"]["sky"], meshes, small: small)
        return sky if settings["behind"] == "sky"

        sky.copy.tap { |plain| plain[7] = 0.0 }
      end

      # @param props [Array<Hash>] of other settings
      # @return [Array<PropScene, nil>, nil] what is seen, what one sees through and what casts, where all props are the
      #   same
      def scenes(props) = ([@scene, @panes, @shade] if props == @settings["props"])

      # @return [Boolean] whether smoke must tell how it moves
      def moves? = @camera.shutter.positive?

      # What a volume that was made ready depends on, besides itself: only what lights it and what stands in it.
      # @return [Hash]
      def lit_by
        rig = @settings["rig"]
        {
          "rig" => rig.merge("sky" => Light::Sky.lighting(rig["sky"])), "props" => @settings["props"],
          "haze" => @settings["haze"], "between" => @settings["between"],
          "moves" => @camera.shutter * @camera.gas_seconds
        }
      end

      # @param medium [Light::Medium, nil] the smoke, where there is some
      # @param coarse [Boolean] lit coarsely and quickly, for a first look
      # @return [Prepared] for any number of pictures, of this and of every renderer that is {#lit_by} the same
      def prepare(medium, coarse: false)
        medium = medium.halved if coarse && medium && medium.smoke.shape.min > 8
        shaped = @rig.shaping.call(medium || Light::Medium.new(Kernel::Buffer.new(:f32, 2, 2, 2), 1.0, [0.0] * 3))
        fire = shaped.fire(@rig)
        lit = shaped.lit(@rig, @shade, fire)
        Prepared.new(
          shaped, fire, lit, filled(shaped, fire, lit),
          @haze.light(@shade, shaped.smoke, shaped.lattice, coarse: coarse)
        )
      end

      # @param volume [Light::Medium, Prepared, nil] the smoke, where there is some
      # @param without_props [Boolean] leave the props out of sight; they still shade
      # @param sparks [Kernel::Buffer, nil] from {Sparks#at}
      # @yield [done, count] after each of the pictures that one with blur is made of
      # @return [Kernel::Buffer] f32 [height, width, 4]: red, green, blue, alpha over nothing
      def image(volume, width, height, without_props: false, sparks: nil)
        ready = volume.is_a?(Prepared) ? volume : prepare(volume)
        @size = [width, height]
        passes = @camera.passes
        return taken(ready, passes[0], without_props, sparks).tap { yield 1, 1 if block_given? } if passes.size == 1

        @sampler = Sampler.new(height, width, @settings["camera"], gain: @film.gain)
        # Sparks are small, and through an open lens each picture has them elsewhere.
        all = @camera.wide? && sparks&.dim(0)&.positive?
        passes.each_with_index do |pass, n|
          more = @sampler.add(taken(ready, pass, without_props, sparks), all: all)
          yield n + 1, passes.size if block_given?
          break unless more
        end
        @sampler.picture.tap { @sampler = nil }
      end

      # @param sky [Array<Float>] factors of the light behind everything
      # @return [Kernel::Buffer] u8 [height, width, 3], ready for a screen
      # @param deep [Boolean] sixteen bits instead of eight
      def develop(image, sky: nil, deep: false) = @film.develop(light(image, sky: sky), deep: deep)

      # @return [Kernel::Buffer] f32 [height, width, 3], a picture before what stands behind everything
      def light(image, sky: nil)
        behind = behind(image.dim(1), image.dim(0))
        PaneKernels.sum(behind, behind.copy, Kernel::Buffer.of(:f32, sky), true) if sky
        behind.copy.tap { |light| FilmKernels.over(light, image, behind) }
      end

      # @return [Kernel::Buffer] f32 [height, width, 3], what stands behind everything
      def behind(width, height) =
        Kernel::Buffer
          .new(:f32, height, width, 3)
          .tap { |behind| SurfaceKernels.behind(behind, @camera.view(width, height), background) }

      # @return [Array<Float>] by which light is multiplied for red, green and blue before the film's curve
      def gains = @film.gains

      # @return [Kernel::Buffer] u8 or u16 [height, width, 4], with alpha and no background
      def cut_out(image, deep: false) = @film.cut_out(image, deep: deep)

      # How far props are in the last picture, metres along the ray; {MarchKernels::NONE} where there is none. Without
      # blur.
      # @return [Kernel::Buffer] f32 [height, width, 16] or [height, width, 1], in the first value
      def depths
        return @hits if @camera.passes.size == 1

        width, height = @size
        Kernel::Buffer.new(:f32, height, width).tap { |depth|
          SurfaceKernels.look(
            depth, Kernel::Buffer.new(:i32, height, width), @camera.view(width, height), @scene.record
          )
        }.reshape(height, width, 1)
      end

      private

      def scenes_of(props)
        seen, casting, sheer = %w[seen casts sheer].map { |which| PropScene.those(props, which) }
        scene = PropScene.new(seen, @meshes)
        [
          scene, sheer.empty? ? nil : PropScene.new(sheer, @meshes),
          (casting == seen) ? scene : PropScene.new(casting, @meshes)
        ]
      end

      # Far props go over into the same that stands behind them.
      def background = @background ||= Renderer.background(@settings, @meshes)

      # One of the pictures that a picture is made of.
      def taken(ready, pass, without_props, sparks)
        width, height = @size
        still(ready, @camera.view(width, height, pass), pass, without_props).tap { |image|
          lay(sparks, image, ready.medium, pass) if sparks&.dim(0)&.positive?
        }
      end

      # One picture at one moment.
      def still(ready, view, pass, without_props)
        props = without_props ? [nil, nil] : [scene(pass.moment, "seen", @scene), scene(pass.moment, "sheer", @panes)]
        part = @settings["camera"]["crop"] && view[24] < 0.5
        @hits = part ? EdgeKernels.within(view) { |wide| surfaces(ready, wide, *props) } : surfaces(ready, view, *props)
        image = Kernel::Buffer.new(:f32, view[13].to_i, view[12].to_i, 4)
        MarchKernels.march(image, @hits, view, ready.filled, paint(ready, pass.moment), @rig.smoke_lamps, ready.haze,
          ready.medium.lattice)
        HazeMarchKernels.lay(image, @hits) unless @haze.empty?
        image
      end

      # Streaks show all of the time that the shutter is open by themselves.
      def lay(sparks, image, medium, pass)
        SparkKernels.sparks(
          image, @hits, @camera.view(image.dim(1), image.dim(0), pass, through: true), sparks, medium.smoke,
          @rig.thickness, medium.lattice
        )
      end

      # The props a part of a frame ago.
      def scene(moment, which, still)
        return still if still.nil? || moment.zero? ||
          @settings["props"].none? { |prop| prop["body"]["from"] != prop["body"]["to"] || prop["body"]["broken"] }

        PropScene.new(PropScene.those(@settings["props"], which), @meshes, 1.0 + moment)
      end

      def filled(medium, fire, lit)
        smooth = @settings["between"] == "smooth"
        ready = ->(field) { smooth ? Grid::Spline.of(field) : field }
        smoke = ready.call(medium.smoke)
        glowing = fire ? ready.call(fire.field) : smoke
        flow = (moves? && medium.flow) || Grid::VectorField.new(smoke, smoke, smoke)
        busy = Kernel::Buffer.new(:u8, *smoke.shape.map { |n| (n + MarchKernels::BLOCK - 1) / MarchKernels::BLOCK })
        MarchKernels.mark(busy, smoke, glowing, !fire.nil?, fire ? fire.low : 0.0, reach(medium))
        Filled.new(smoke, glowing, lit.depths, lit.open, lit.soft, lit.bounces.skin, lit.bounces.edge.to_f,
          medium.tint || lit.soft, *flow.to_a, busy, !fire.nil?, !medium.tint.nil?, lit.open.dim(3) > 1,
          smooth, PACE.fetch(@settings["between"]), fire ? fire.table : Kernel::Buffer.new(:f32, 2, 3))
      end

      # How far around it smoke may be seen while the shutter is open, cells beyond {MarchKernels::BLOCK}.
      def reach(medium)
        return 0 unless moves? && medium.flow

        (medium.flow.to_a.map { |part| Flow::FlowKernels.peak(part) }.max * @camera.shutter *
          @camera.gas_seconds / medium.voxel).ceil.clamp(0, 48)
      end

      def paint(ready, moment)
        fire, medium = ready.fire, ready.medium
        Paint.new(
          @rig.thickness,
          @rig.thickness * @rig.shadow,
          *@rig.albedo,
          @rig.forward,
          @rig.back,
          @rig.back_share,
          @rig.thinner,
          @rig.ahead * @rig.bounces.clamp(0.0, 1.0),
          *@rig.soft_albedo,
          fire ? fire.low : 0.0,
          fire ? fire.per : 0.0,
          *[moment, @camera.shutter / @camera.passes.size].map do |frames|
            medium.flow ? frames * @camera.gas_seconds / medium.voxel : 0.0
          end
        )
      end

      def surfaces(ready, view, scene, panes)
        height, width = view[13].to_i, view[12].to_i
        hits =
          Kernel::Buffer.new(
            :f32, height, width, PaneKernels::FIRST + (panes ? 1 + PaneKernels::WIDTH * PaneKernels::MOST : 0)
          )
        PaneKernels.begin_far(hits)
        PaneKernels.leave(hits, @sampler.wanted) if @sampler
        return hits if (scene.nil? || scene.empty?) && panes.nil?

        lamps = lamps(ready.fire)
        links = @rig.links + [nil] * (lamps.dim(0) - @rig.lamps.dim(0))
        caustics, shade = caustics(lamps, @size[0]), @shade.equal?(@scene) ? scene : @shade
        record, sheer = [scene, panes].map { |props| props&.record(links, shade, caustics: caustics) }
        air = air(ready)
        unless scene.empty?
          glance = EdgeKernels.glance(view, record)
          @sampler&.guide(glance, view, record)
          EdgeKernels.rounds(hits, glance, view, @film.gain) do |which|
            SurfaceKernels.surfaces(hits, which, view, record, lamps, background, air, ready.medium.lattice)
          end
        end
        if panes
          plain = lamps.copy.tap { |rows| rows.dim(0).times { |n| rows[n, Light::LampKernels::SHADES] = 0.0 } }
          PaneKernels.look(hits, view, sheer, lamps, plain, background, air, ready.medium.lattice)
        end
        hits
      end

      # Once for all moments of a picture, and the same for every part of it.
      def caustics(lamps, width)
        return Caustics.none unless @settings["caustics"]

        left, _, right, = @settings["camera"]["crop"] || [0.0, 0.0, 1.0, 1.0]
        whole = (width / (right - left)).round
        @caustics ||= {}
        @caustics[whole] ||= Caustics.of(@scene.record, lamps, whole)
      end

      def air(ready)
        medium = ready.medium
        haze = ready.haze
        Air.new(
          medium.smoke, ready.lit.skylight.up, @rig.thickness * @rig.shadow, haze.left, haze.open, haze.x, haze.y,
          haze.z, haze.voxel, haze.veils.dim(0).positive?
        )
      end

      # The shot's lamps and those that stand for the fire, which smoke does not dim on props.
      def lamps(fire)
        return @rig.prop_lamps unless fire && fire.lamps.dim(0).positive?

        rows = fire.for_props
        own = @rig.prop_lamps
        # Behind a row of its own numbers a slide may stand.
        rows = rows.map { |row| row.pack("e*") + "\0" * (4 * (own.dim(1) - row.size)) }
        Kernel::Buffer.new(:f32, own.dim(0) + rows.size, own.dim(1), bytes: own.bytes + rows.join)
      end
    end
  end
end
