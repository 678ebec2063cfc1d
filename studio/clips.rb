# frozen_string_literal: true

require "digest"

module Vumbral
  module Studio
    # Small movies of what somebody looks at: pictures that a browser drew, put together as one file.
    class Clips
      # So many are kept, and so many pictures may have one.
      KEPT, MOST = 20, 2000

      def initialize(workshop)
        @workshop = workshop
      end

      # Asks for one.
      # @param files [Array<String>] names of files that were sent, in order; @param rate [Numeric] frames a second
      # @return [Integer] the job's id
      # @raise [Refused]
      def start(files, rate)
        Movie.check
        unless files.is_a?(Array) && files.size.between?(1, MOST)
          raise Refused.new("A movie of the view has 1 to #{MOST} pictures.", code: "out_of_range")
        end
        unless rate.is_a?(Numeric) && rate.between?(1, 240)
          raise Refused.new("A movie has 1 to 240 frames a second.", code: "out_of_range")
        end

        @workshop.jobs.add("clip", nil, {files: files.map { |file| File.basename(file.to_s) }, rate: rate})
      end

      # Makes one, and lets the pictures go.
      # @yield [done] pictures that are in it
      # @return [String] its name
      # @raise [Refused]
      def make(files, rate, &progress)
        paths = files.map { |file| @workshop.home.within("incoming", file) }
        lost = paths.find { |path| !File.file?(path) } and
          raise Refused.new("A picture of the movie (#{File.basename(lost)}) was lost; make it again.", code: "no_file")
        paths.each do |path|
          unless Pixels.jpeg?(File.binread(path, 3).to_s)
            raise Refused.new("What was sent for the movie is no JPEG picture.", code: "bad_picture")
          end
        end
        name = Digest::SHA256.hexdigest(files.join(" "))[0, 16]
        put_together(paths, rate, path(name), &progress)
        @workshop.home.thin(@workshop.home.within("clips", "*.mp4"), KEPT)
        name
      ensure
        paths&.each { |path| FileUtils.rm_f(path) }
      end

      # @return [String] the movie's place
      def path(name)
        unless name.to_s.match?(/\A[0-9a-f]{16}\z/)
          raise Refused.new("That is not the name of a movie.", code: "bad_path")
        end

        @workshop.home.within("clips", "#{name}.mp4")
      end

      private

      def put_together(paths, rate, out, &progress)
        folder = @workshop.home.within("incoming", "#{File.basename(out)}-pictures")
        FileUtils.mkdir_p([folder, File.dirname(out)])
        paths.each_with_index do |path, n|
          FileUtils.ln(path, File.join(folder, format("%06d.jpg", n + 1)), force: true)
        end
        Movie.new("mp4", rate).encode(File.join(folder, "%06d.jpg"), out, &progress)
      ensure
        FileUtils.rm_rf(folder) if folder
      end
    end
  end
end
