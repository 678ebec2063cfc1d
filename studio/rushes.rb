# frozen_string_literal: true

module Vumbral
  module Studio
    # What a finished frame is made of: the shot, the other shots that its layers show, and the gas of each of their frames. Taken
    # when it is asked for, so that work in the background is not led astray by what changes meanwhile.
    class Rushes
      # Another shot, and the gas of its frames.
      Other = Struct.new(:document, :keys)

      # @param frames [Array<Integer>] of the shot, that are to be finished
      # @param quiet [Boolean] where there is no gas of a frame yet, it is seen without it
      # @raise [Refused] where a frame has not been run, unless `quiet`
      def self.of(workshop, shot_id, document, frames, quiet: false)
        ids = document.of(:layer).select { |layer| layer[:what] == "other" }.filter_map { |layer| layer[:shot] }.uniq
        others = ids.to_h { |id| [id, known(workshop, id)] }.compact
        new(workshop, document, {}, others.transform_values { |other| Other.new(other, {}) }).tap { |rushes| rushes.gather(shot_id, frames, quiet) }
      end

      # @return [Shot::Document, nil] nothing for one that was let go
      def self.known(workshop, id)
        workshop.shots.document(id)
      rescue Refused
        nil
      end

      # @param data [Hash] from {#to_job}
      def self.from(workshop, document, data)
        numbers = ->(keys) { keys.transform_keys(&:to_i) }
        others = data["others"].transform_values { |row| Other.new(workshop.shots.read(row["document"]), numbers[row["keys"]]) }
        new(workshop, document, numbers[data["keys"]], others)
      end

      attr_reader :document

      def initialize(workshop, document, keys, others)
        @workshop, @document, @keys, @others = workshop, document, keys, others
      end

      # @return [Hash] plain data
      def to_job = {"keys" => @keys, "others" => @others.transform_values { |other| {"document" => other.document.to_json, "keys" => other.keys} }}

      # Facts of a plate, as {Finish::Stack} asks for them.
      def plate(digest) = @workshop.plates.plate(digest)

      # @return [Shot::Document, nil]
      def shot(id) = @others[id]&.document

      # @return [Finish::Stack]
      def stack = @stack ||= Finish::Stack.new(@document, self)

      # @param layer [Hash] from {Finish::Stack#at}
      # @return [Shot::Document] the one that a layer shows
      def document_of(layer) = (layer["what"] == "other") ? @others.fetch(layer["shot"]).document : @document

      # @return [String, nil] the gas of a frame that a layer shows
      def key(layer, frame) = ((layer["what"] == "other") ? @others.fetch(layer["shot"]).keys : @keys)[frame]

      # @api private
      def gather(shot_id, frames, quiet)
        shown = frames.flat_map { |frame| stack.at(frame) }
        mine = frames + shown.select { |layer| layer["what"] == "shot" }.flat_map { |layer| layer["at"].map(&:first) }
        @keys.merge!(keys(shot_id, mine.uniq, quiet))
        shown.select { |layer| layer["what"] == "other" }.group_by { |layer| layer["shot"] }.each do |id, layers|
          @others[id].keys.merge!(keys(id, layers.flat_map { |layer| layer["at"].map(&:first) }.uniq, quiet))
        rescue Refused => error
          raise Refused.new("Of the shot #{@others[id].document.name}, which a layer shows: #{error.message}", code: error.code)
        end
      end

      private

      def keys(shot_id, frames, quiet)
        there = quiet ? @workshop.runs.there(shot_id) : nil
        frames.to_h { |frame| [frame, (there && !there.include?(frame)) ? nil : @workshop.runs.best(shot_id, frame)[1]] }
      end
    end
  end
end
