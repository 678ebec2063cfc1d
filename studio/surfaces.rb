# frozen_string_literal: true

require "digest"
require "json"

module Vumbral
  module Studio
    # Props that are surfaces of sculpts, as the view draws them: as coarse as in drafts, made frame by frame when they
    # are looked at, for each takes a moment, and kept.
    class Surfaces
      # A surface that grows or shrinks by more than this part from a frame to the next comes or goes at once.
      JUMP = 0.6

      def initialize(workshop)
        @workshop = workshop
      end

      # @return [Array(String, Array<Integer>)] a name for all frames of a prop's surface, and for each frame of the
      #   shot which of them is the first that is alike
      def of(document, node)
        # Asked for by the view and by each finding.
        kept = @named
        kept = @named = [document, {}] unless kept && kept[0].equal?(document)
        kept[1][node.id] ||= named(document, node)
      end

      # @return [String, nil] where its corners stand, as {Geometry::Mesh#corners}; nil where they have to be made first
      # @raise [Refused] where there is no such surface
      def known(key, number)
        unless key.to_s.match?(/\A[0-9a-f]{24}\z/) && File.exist?(within("#{key}.json"))
          raise Refused.new("That is not the surface of a sculpt of this shot; look again.", code: "bad_path")
        end
        path(key, number).then { |path| path if File.exist?(path) }
      end

      # @return [Boolean] whether it was looked at and there was nothing of it at any frame
      def empty?(document, node) =
        areas(of(document, node)[0]).then { |found| found.any? && found.values.all?(&:zero?) }

      # Frames at which a surface comes or goes at once, as far as they were looked at.
      # @return [Array<Integer>]
      def flashes(document, node)
        key, numbers = of(document, node)
        areas = areas(key)
        return [] if areas.size < 2

        most = areas.values.max
        numbers.each_cons(2).with_index(document.first_frame).filter_map do |pair, frame|
          before, now = pair.map { |number| areas[number] }
          frame + 1 if before && now && [before, now].max > 0.2 * most && (before - now).abs > JUMP * [before, now].max
        end
      end

      # Puts its corners down. @return [Float] how large it is, square metres
      def make(key, number)
        outlines = JSON.parse(File.read(within("#{key}.json")))
        mesh = Geometry::Shapes.build(outlines.fetch(number.clamp(0, outlines.size - 1)), @workshop.assets)
        @workshop.home.write(path(key, number), mesh.empty? ? "" : mesh.corners.bytes)
        mesh.empty? ? 0.0 : mesh.area
      end

      # Notes how large one is that was made. @return [String] where its corners stand
      def note(key, number, area)
        File.open(within("#{key}.areas"), "a") { |file| file.puts(JSON.generate([number, area])) }
        path(key, number)
      end

      private

      def named(document, node)
        outlines =
          (document.first_frame..document.last_frame).map do |frame|
            Geometry::Recipes.at(Geometry::Bodies.of(document, node, frame)["outline"], draft: true)
          end
        texts = outlines.map { |outline| JSON.generate(outline) }
        key = Digest::SHA256.hexdigest(JSON.generate([Sculpts::VERSION, texts]))[0, 24]
        list = within("#{key}.json")
        @workshop.home.write(list, JSON.generate(texts.uniq.map { |text| JSON.parse(text) })) unless File.exist?(list)
        numbers = texts.uniq.each_with_index.to_h
        [key, texts.map { |text| numbers[text] }]
      end

      # Of each that was made.
      def areas(key) =
        File.exist?(within("#{key}.areas")) ? File.foreach(within("#{key}.areas")).to_h { |line| JSON.parse(line) } : {}

      def path(key, number) = within("#{key}-#{number.to_i}.corners")

      def within(name) = @workshop.home.within("surfaces", name[0, 2], name)
    end
  end
end
