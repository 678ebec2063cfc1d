# frozen_string_literal: true

require "json"
require "zstd-ruby"

module Vumbral
  module Studio
    # A print taken apart by what lights it, so that each lamp, the sky and what glows can be made brighter or of
    # another colour afterwards, at once; and put into the shot.
    class Balances
      # Wider prints are balanced in a smaller picture.
      WIDEST = 960
      KEPT = 12
      STOPS = (-20.0..20.0)
      # What is taken apart: names and f32 [h, w, 4] of each, with the renderer that develops them.
      Apart = Struct.new(:names, :parts, :renderer)

      def initialize(workshop)
        @workshop = workshop
        @held = {}
        @lock = Mutex.new
      end

      # @return [Integer, nil] the job that takes a print apart; nothing where that was done
      def ask(shot_id, number)
        print = @workshop.prints.fetch(shot_id, number)
        return if File.exist?(path(print[:shot_id], number))

        going =
          @workshop.jobs.active.find do |job|
            job[:kind] == "balance" && job[:shot_id] == print[:shot_id] && JSON.parse(job[:payload])["number"] == number
          end
        going ? going[:id] : @workshop.jobs.add("balance", print[:shot_id], {number: number})
      end

      # @yield after each part
      # @return [Integer] how many parts
      def make(shot_id, number)
        document, frame, size = asked(shot_id, number)
        key = @workshop.runs.key_of(document, @workshop.prints.fetch(shot_id, number)[:quality], frame)
        names = (document.of(:sun) + document.of(:lamp)).map(&:name)
        all = Picture::Parts.of(Picture::Renderer.sharp(@workshop.painting.settings(document, frame)), names)
        parts =
          all.each_with_index.map do |(_, settings), n|
            @workshop.painting.of(settings, key, size).tap { yield n + 1, all.size }
          end
        head = JSON.generate({names: names + ["Sky", "What glows"], size: size})
        bytes = [head.bytesize].pack("L<") + head.b + parts.map(&:bytes).join
        @workshop.home.write(path(shot_id, number), Zstd.compress(bytes, level: 1))
        @workshop.home.thin(@workshop.home.within("balances", shot_id, "*.parts"), KEPT)
        parts.size
      end

      # @return [Array<String>] what can be balanced, in order
      def names(shot_id, number) = apart(shot_id, number).names

      # @param gains [Array<Hash>] "stops" and "colour" (red, green, blue; 1, 1, 1 leaves it) of each, in order
      # @return [String] a JPEG
      # @raise [Refused]
      def picture(shot_id, number, gains)
        held = apart(shot_id, number)
        factors = checked(gains, held.names).map { |stops, colour| colour.map { |c| c * 2.0**stops } }
        image = held.parts[0].copy
        held
          .parts
          .zip(factors)
          .each_with_index do |(part, factor), n|
            Picture::PaneKernels.sum(image, part, Kernel::Buffer.of(:f32, factor), n.zero?)
          end
        Pixels.jpeg(held.renderer.develop(image, sky: factors[-2]))
      end

      # The light at a place of the picture, as it is before the film: of all, and what each light adds.
      # @param x [Float]; @param y [Float] 0 to 1 across and down
      # @return [Hash] :all and :parts (by name), red, green, blue
      def light(shot_id, number, x, y)
        held = apart(shot_id, number)
        height, width = held.parts[0].shape
        i, j = (x * width).floor.clamp(0, width - 1), (y * height).floor.clamp(0, height - 1)
        rows = held.parts.map { |part| 3.times.map { |c| part[j, i, c].round(5) } }
        {all: rows.transpose.map { |values| values.sum.round(5) }, parts: held.names.zip(rows).to_h}
      end

      # Puts a balance into the shot as one step.
      # @return [Hash] the step
      def apply(shot_id, number, gains, by: nil)
        held = apart(shot_id, number)
        made = asked(shot_id, number)[0]
        document = @workshop.shots.document(shot_id)
        lit = (made.of(:sun) + made.of(:lamp)).map(&:id) + [made.the(:sky).id, made.look.id]
        edits =
          lit
            .zip(checked(gains, held.names))
            .flat_map { |id, (stops, colour)| (node = document.nodes[id]) ? Balances.edits(node, stops, colour) : [] }
        if edits.empty?
          raise Refused.new("Nothing was balanced; make something brighter or darker first.", code: "bad_edit")
        end

        @workshop.shots.step(shot_id, edits, "Light balanced as on P#{number}", by: by)
      end

      # @return [Array<Hash>]
      def self.edits(node, stops, colour)
        brightest = [colour.max, 1e-6].max
        dial = (node.kind.name == :look) ? :fire : :strength
        factor = 2.0**stops * brightest
        found = ((factor - 1.0).abs > 1e-6) ? scaled(node, dial) { |value| value * factor } : []
        return found if node.kind.name == :look || colour.uniq.size == 1

        warm = (node.kind.name == :lamp && node[:kelvin] == "kelvin") ? [{"do" => "set", "node" => node.id, "dial" => "kelvin", "value" => "colour"}] : []
        found + warm +
          scaled(node, :colour) { |value| value.zip(colour).map { |a, b| (a * b / brightest).clamp(0.0, 1.0) } }
      end

      # All of a dial's keys, or the dial where it has none.
      def self.scaled(node, dial)
        range = node.kind.dial(dial).range
        curve = node.keyed(dial)
        fit = ->(value) { value.is_a?(Array) ? value : value.clamp(range.begin, range.end) }
        unless curve
          return [
            {"do" => "set", "node" => node.id, "dial" => dial.to_s, "value" => fit.call(yield(node.plain(dial)))}
          ]
        end

        curve.to_a.map do |key|
          key.transform_keys(&:to_s).merge(
            "do" => "key", "node" => node.id, "dial" => dial.to_s, "value" => fit.call(yield(key[:value]))
          )
        end
      end
      private_class_method :scaled

      private

      def path(shot_id, number) = @workshop.home.within("balances", shot_id, format("%05d.parts", number))

      # What a print was made of. @return [Array] document, frame and size
      def asked(shot_id, number)
        row = @workshop.prints.fetch(shot_id, number)
        share = [WIDEST.fdiv(row[:width]), 1.0].min
        [
          @workshop.shots.read(row[:document]), row[:frame],
          [row[:width], row[:height]].map { |n| [(n * share).round, 2].max }
        ]
      end

      def apart(shot_id, number)
        file = path(shot_id, number)
        unless File.exist?(file)
          raise Refused.new("P#{number} has not been taken apart yet; ask for that first.", code: "not_ready")
        end

        @lock.synchronize do
          @held.shift if @held.size >= 2 && !@held.key?(file)
          @held[file] ||= read(shot_id, number, file)
        end
      end

      def read(shot_id, number, file)
        raw = Zstd.decompress(File.binread(file))
        length = raw.unpack1("L<")
        head = JSON.parse(raw.byteslice(4, length))
        width, height = head["size"]
        size = 16 * width * height
        parts =
          head["names"].each_index.map do |n|
            Kernel::Buffer.new(:f32, height, width, 4, bytes: raw.byteslice(4 + length + n * size, size))
          end
        document, frame, = asked(shot_id, number)
        Apart.new(
          head["names"], parts, Picture::Renderer.new(Picture::Renderer.settings(document, frame), @workshop.assets)
        )
      end

      def checked(gains, names)
        fits = gains.is_a?(Array) && gains.size == names.size && gains.all? do |gain|
          gain.is_a?(Hash) && STOPS.cover?(gain["stops"]) && gain["colour"].is_a?(Array) && gain["colour"].size == 3 &&
            gain["colour"].all? { |c| c.is_a?(Numeric) && c.between?(0.0, 100.0) }
        end
        unless fits
          raise Refused.new(
            "A balance takes stops from #{STOPS.begin.to_i} to #{STOPS.end.to_i} and a colour for each of: " \
              "#{names.join(", ")}.",
            code: "bad_value"
          )
        end

        gains.map { |gain| [gain["stops"].to_f, gain["colour"].map(&:to_f)] }
      end
    end
  end
end
