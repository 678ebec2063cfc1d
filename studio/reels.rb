# frozen_string_literal: true

require "digest"
require "json"
require "vips"

module Vumbral
  module Studio
    # Small moving pictures of shots, for the shelf: what there is of a shot as it stands, a second or two of it.
    class Reels
      SIZE = [270, 152].freeze
      # So many pictures at most, shown so long, seconds.
      MOST, LENGTH = 16, 2.0
      KEPT = 3
      # Pictures that were made before work had to make way.
      TILES = 120

      def initialize(workshop)
        @workshop = workshop
        @tiles = {}
      end

      # @return [String, nil] the name of the reel of a shot as it stands, if there is one
      def made(shot_id)
        name = name(shot_id) or return
        name if File.exist?(path(shot_id, name))
      end

      # Asks for the reel of a shot as it stands, unless it is there or on its way.
      # @return [Hash] :reel (its name), or :job, or neither where nothing was run
      def start(shot_id)
        shot = @workshop.shots.fetch(shot_id)[:id]
        wanted = name(shot) or return {}
        return {reel: wanted} if File.exist?(path(shot, wanted))

        busy = @workshop.jobs.active(shot).find { |job| job[:kind] == "reel" }
        {job: busy ? busy[:id] : @workshop.jobs.add("reel", shot, {}, background: true)}
      end

      # Makes the reel of a shot as it stands. @yield [done, count] after each picture
      # @return [String] its name
      # @raise [Refused]
      def make(shot_id, &told)
        name = name(shot_id) || raise(Refused.new("Nothing of this shot was run yet.", code: "not_run"))
        keep(shot_id, name, Reels.webp(pictures(shot_id, &told), LENGTH))
      end

      # @yield [done, count] after each picture
      # @return [Array<Kernel::Buffer>] u8 [height, width, 3], what a reel shows of a shot as it stands
      def pictures(shot_id)
        document = @workshop.shots.document(shot_id)
        frames = chosen(shot_id)
        frames.map.with_index(1) do |(frame, key), done|
          tile(document, frame, key).tap { yield done, frames.size if block_given? }
        end
      end

      # @return [String] the file's place
      # @raise [Refused]
      def path(shot_id, name)
        unless name.to_s.match?(/\A[0-9a-f]{16}\z/)
          raise Refused.new("That is not the name of a moving picture.", code: "bad_path")
        end

        @workshop.home.within("reels", shot_id, "#{name}.webp")
      end

      # @param pictures [Array<Kernel::Buffer>] u8 [height, width, 3] of one size
      # @param length [Float] seconds
      # @return [String] a WebP that goes round and round
      def self.webp(pictures, length, quality: 60)
        height, width, = pictures.first.shape
        tall = Vips::Image.new_from_memory(pictures.map(&:bytes).join, width, height * pictures.size, 3, :uchar)
          .copy(interpretation: :srgb).mutate do |image|
            image.set_type!(GObject::GINT_TYPE, "page-height", height)
            delays = [(1000 * length / pictures.size).round] * pictures.size
            image.set_type!(Vips::ARRAY_INT_TYPE, "delay", delays)
            image.set_type!(GObject::GINT_TYPE, "loop", 0)
          end
        tall.write_to_buffer(".webp", Q: quality)
      end

      private

      # The best frame there is at each of some places, evenly spread.
      def chosen(shot_id)
        there = @workshop.runs.there(shot_id)
        count = [MOST, there.size].min
        Array.new(count) { |n| there[(count == 1) ? 0 : n * (there.size - 1) / (count - 1)] }
          .to_h { |frame| [frame, @workshop.runs.best(shot_id, frame)[1]] }
      end

      def name(shot_id)
        frames = chosen(shot_id)
        Digest::SHA256.hexdigest(JSON.generate([frames, @workshop.shots.document(shot_id).to_h]))[0, 16] if frames.any?
      end

      def tile(document, frame, key)
        known = [document.to_json.hash, frame, key]
        @tiles[known] ||= begin
          @tiles.shift if @tiles.size >= TILES
          renderer, image = @workshop.painting.image(document, frame, key, SIZE, sharp: true, glow: false)
          renderer.develop(image)
        end
      end

      # The newest few stay: what was undone comes back.
      def keep(shot_id, name, bytes)
        @workshop.home.write(path(shot_id, name), bytes)
        @workshop.home.thin(@workshop.home.within("reels", shot_id, "*.webp"), KEPT)
        name
      end
    end
  end
end
