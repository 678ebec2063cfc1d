# frozen_string_literal: true

module Vumbral
  module Studio
    # Frames handed on in open formats.
    class Exports
      FORMATS = {"png" => "PNG pictures with alpha", "vdb" => "OpenVDB volumes"}.freeze

      def initialize(workshop)
        @workshop = workshop
      end

      # @param as [String] png or vdb
      # @param out [String, nil] a folder on this machine; one in the data folder otherwise
      # @param frames [Range, nil] of the shot's frames
      # @return [Integer] the job's id
      def start(shot_id, as, out: nil, frames: nil, size: nil)
        raise Refused.new("Exports are #{FORMATS.keys.join(" or ")}, not #{as.to_s[0, 20].inspect}.", code: "bad_value") unless FORMATS.key?(as)

        document = @workshop.shots.document(shot_id)
        whole = document.first_frame..document.last_frame
        frames ||= whole
        unless whole.cover?(frames.begin) && whole.cover?(frames.end) && frames.begin <= frames.end
          raise Refused.new("Frames #{frames.begin}-#{frames.end} are not in the shot; it goes from #{whole.begin} to #{whole.end}.", code: "out_of_range")
        end
        keys = frames.map { |frame| @workshop.runs.best(shot_id, frame)[1] }
        folder = out ? File.expand_path(out) : folder(shot_id, "#{as}-#{Time.now.strftime("%Y%m%d-%H%M%S")}")
        @workshop.jobs.add("export", shot_id, as: as, out: folder, first: frames.begin, keys: keys, document: document.to_json, size: size)
      end

      # @return [Array<Hash>] exports in the data folder: name, files, bytes
      def list(shot_id)
        Dir[File.join(folder(shot_id), "*")].select { |path| File.directory?(path) }.sort.reverse.map do |path|
          files = Dir[File.join(path, "*")].sort
          {name: File.basename(path), files: files.map { |file| File.basename(file) }, bytes: files.sum { |file| File.size(file) }}
        end
      end

      def folder(shot_id, *rest) = @workshop.home.within("exports", shot_id, *rest)
    end
  end
end
