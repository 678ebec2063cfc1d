# frozen_string_literal: true

require "fileutils"
require "json"

module Vumbral
  module Studio
    # What lies beside exported files: every setting as text, the shot as a file, and a sheet of small prints.
    class ExportBeside
      # Prints on a sheet at most, and how wide they are, pixels.
      MOST, WIDE = 24, 320

      # @param names [ExportNames]
      def initialize(task, document, names)
        @task, @document, @names = task, document, names
        @workshop = task.workshop
        @frames = task.payload.fetch("all", task.payload["keys"].map(&:first))
      end

      # Keeps a small print of a frame, if it is one of those for the sheet.
      # @yield what a screen shows, u8 [h, w, 3]
      def small(frame)
        return unless wanted? && chosen.include?(frame)

        pixels = yield
        picture =
          Vips::Image.new_from_memory(pixels.bytes, pixels.dim(1), pixels.dim(0), 3, :uchar).copy(interpretation: :srgb)
        @workshop.home.write(
          File.join(folder, format("%06d.png", frame)), picture.thumbnail_image(WIDE).write_to_buffer(".png")
        )
      end

      # Takes up small prints that others kept. @param other [String] their folder
      def take(other)
        Dir[File.join(other, File.basename(folder), "*.png")].each { |file| FileUtils.mv(file, folder) } if wanted?
      end

      # @return [Array<String>] the files that were written
      def write
        return [] unless wanted?

        [put("log.txt", text), put("shot.json", JSON.pretty_generate(@document.to_h)), sheet].compact
      end

      # @return [String] every setting, by what it belongs to
      def text
        head = [
          "#{@document.name}: #{FrameList.words(@frames)} as #{Exports::FORMATS.fetch(@task.payload["as"])}",
          "#{@frames.size} frames, #{@document.rate.round(3)} a second", ""
        ]
        (head + @document.nodes.each_value.flat_map { |node|
          ["#{node.name} (#{node.kind.label})#{switches(node)}", *dials(node), ""]
        }).join("\n")
      end

      private

      def wanted? = @task.payload["beside"]

      # Evenly spread over all frames.
      def chosen
        @chosen ||= begin
          count = [MOST, @frames.size].min
          Array.new(count) { |n| @frames[(count == 1) ? 0 : n * (@frames.size - 1) / (count - 1)] }
        end
      end

      def put(ending, content) = @names.all(ending).tap { |path| @workshop.home.write(path, content) }

      def folder =
        @folder ||= File.join(@task.payload["out"], ".#{@task.shot}-sheet").tap { |path| FileUtils.mkdir_p(path) }

      def sheet
        files = Dir[File.join(folder, "*.png")].sort
        return if files.empty?

        tiles = files.map { |file| worded(Vips::Image.new_from_file(file), File.basename(file, ".png").to_i.to_s) }
        page = Vips::Image.arrayjoin(tiles, across: Math.sqrt(tiles.size).ceil, shim: 6, background: [20, 20, 20])
        put("sheet.jpg", page.write_to_buffer(".jpg", Q: 90))
      ensure
        FileUtils.rm_rf(folder)
      end

      def worded(picture, words)
        text = Vips::Image.text(words, dpi: 72).embed(4, 4, picture.width, 22).linear(0.8, 20).cast(:uchar)
        picture.join(text.bandjoin([text, text]).copy(interpretation: :srgb), :vertical, expand: true)
      end

      def switches(node)
        found = [node.off? && "off", node.only? && "only this"].select(&:itself)
        found.empty? ? "" : ", #{found.join(", ")}"
      end

      def dials(node)
        node.kind.dials.each_value.select { |dial| dial.counts?(node) }.map do |dial|
          keys = node.keyed(dial.name).to_a.map { |key| "#{key[:frame]}: #{dial.show(key[:value])}" }
          formula = node.rule(dial.name)&.texts
          words = [
            keys.any? && "keys #{keys.join("; ")}", formula && "formula #{Array(formula).compact.join(" | ")}"
          ].select(&:itself)
          "  #{dial.label}: #{words.empty? ? dial.show(node[dial.name]) : words.join("; ")}"
        end
      end
    end
  end
end
