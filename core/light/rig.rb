# frozen_string_literal: true

module Vumbral
  module Light
    # All that gives light in a shot, as the numbers that kernels take, and how smoke takes it up.
    class Rig
      attr_reader :lamps, :sky, :albedo, :thickness, :shadow, :bounces, :fire, :forward, :back, :back_share, :shaping

      # @param settings [Hash] from {.settings}
      # @param meshes [#coloured, nil] gives the pictures that it asks for
      def initialize(settings, meshes = nil)
        rows, @links = around(settings, meshes)
        rows = Lamps.tinted(rows, settings["pictures"] || {}, meshes)
        @lamps = Lamps.buffer(rows, settings["slides"] || {}, meshes)
        @sky = Sky.of(settings["sky"], meshes)
        @albedo = settings["albedo"]
        @thickness, @shadow, @forward, @back, @back_share = settings.values_at("thickness", "shadow", "forward",
          "back", "back_share")
        @bounces, @lamplight, @fire = settings.values_at("bounces", "lamplight", "fire")
        @shaping = Shaping.new(settings["shape"], @fire["ambient"], meshes)
      end

      # @return [Kernel::Buffer] the lamps as smoke shows them, by the look's own strength for them
      def smoke_lamps = @smoke_lamps ||= dimmed(Lamps::VOLUMES, @lamplight)

      # @return [Kernel::Buffer] the lamps as fogs show them
      def volume_lamps = @volume_lamps ||= dimmed(Lamps::VOLUMES, 1.0)

      # @return [Kernel::Buffer] the lamps as props show them
      def prop_lamps = @prop_lamps ||= dimmed(Lamps::PROPS, 1.0)

      # @return [Array<Array<String>, nil>] props that each lamp lights alone; nothing for all
      attr_reader :links

      # @return [Kernel::Buffer] the sky as smoke shows it
      def smoke_sky = @smoke_sky ||= @sky.copy.tap { |sky| 6.times { |c| sky[c] *= @lamplight } }

      # As kernels take it: how much light goes on (red, green, blue), thickness for shadows, and how much
      # of that thickness light that was scattered sees.
      # @return [Kernel::Buffer] f32 [5]
      def scatter = @scatter ||= Kernel::Buffer.of(:f32, @albedo + [@thickness * @shadow, thinner])

      # @return [Float] the mean cosine of the way light goes on, -1 to 1
      def ahead = (1.0 - @back_share) * @forward + @back_share * @back

      # @return [Float] how much of its thickness smoke has for light that was scattered
      def thinner = 1.0 - @albedo.sum / 3.0 * ahead

      # @return [Float] thickness of the smoke's shadows, for light that was scattered
      def soft_thickness = @thickness * @shadow * thinner

      # @return [Array<Float>] how much of light that was scattered goes on in that thinner smoke
      def soft_albedo = @albedo.map { |a| a * (1.0 - ahead) / (1.0 - a * ahead) }

      # @param document [Shot::Document]
      # @return [Hash] plain data: everything that lights the smoke at a frame
      def self.settings(document, frame)
        look, sky = document.look, document.the(:sky)
        lamps = Lamps.rows(document, frame)
        ambient = document.the(:chamber)[:ambient]
        slides, pictures = Lamps.slides(document, frame), Lamps.pictures(document)
        {
          "lamps" => lamps,
          "links" => Lamps.links(document),
          **{"slides" => slides, "pictures" => pictures}.reject { |_, table| table.empty? },
          "sky" => {
            "model" => sky[:model], "strength" => sky[:strength], "colour" => sky[:colour], "below" => sky[:below],
            "haze" => sky[:haze], "fade" => sky[:fade], "background" => document.the(:picture)[:background],
            "sun" => document.of(:sun).any? ? lamps[0][1, 3] : nil,
            **hills(sky, document.of(:sun).any? ? lamps[0] : nil),
            **((sky[:model] == "picture") ? {"picture" => sky[:picture], "around" => sky[:around, frame]} : {})
          },
          "albedo" => look[:colour],
          "fire" => Fire.settings(look, frame, ambient),
          "shape" => Shaping.settings(document, look, frame),
          **%i[thickness shadow lamplight bounces forward back back_share].to_h do |dial|
            [dial.to_s, look[dial, frame]]
          end
        }
      end

      # What stands before the sky far off. @param sun [Array<Float>, nil] the row of the first sun
      def self.hills(sky, sun)
        return {} unless sky[:hills].positive? && sky[:model] != "picture"

        {
          "hills" => {
            "height" => sky[:hills], "seed" => sky[:hills_seed], "colour" => sky[:hills_colour],
            "sunlight" => sun ? sun[LampKernels::RED, 3] : [0.0] * 3
          }
        }
      end
      private_class_method :hills

      private

      # Behind the lamps the suns of a picture all around. @return [Array(Array<Array<Float>>, Array)] rows and links
      def around(settings, meshes)
        rows, links, sky = settings.values_at("lamps", "links", "sky")
        environment = Sky.environment(sky, meshes)
        return [rows, links] unless environment

        suns = Sky.suns(sky, environment).map { |size, way, light| Lamps.round([-size, *way, *light, 1.0]) }
        [rows + suns, links + [nil] * suns.size]
      end

      # @param which [Float] what they must light to count
      def dimmed(which, gain)
        @lamps.copy.tap do |lamps|
          lamps
            .dim(0)
            .times do |n|
              (LampKernels::RED..LampKernels::RED + 2).each do |c|
                lamps[n, c] *= (lamps[n, LampKernels::LIGHTS].to_i & which.to_i).zero? ? 0.0 : gain
              end
            end
        end
      end
    end
  end
end
