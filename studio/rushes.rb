# frozen_string_literal: true

module Vumbral
  module Studio
    # What a finished frame is made of: the shot, the other shots that its layers show, and the gas of each of their
    # frames. Taken when it is asked for, so that work in the background is not led astray by what changes meanwhile.
    class Rushes
      # @param frames [Array<Integer>] of the shot, that are to be finished
      # @param quiet [Boolean] where there is no gas of a frame yet, it is seen without it
      # @raise [Refused] where a frame has not been run, unless `quiet`
      def self.of(workshop, shot_id, document, frames, quiet: false)
        build(workshop, shot_id, document, []).tap { |rushes| rushes.gather(shot_id, frames, quiet) }
      end

      # With the shots that its layers show, and those of theirs where they come with their own layers.
      # @param within [Array<String>] ids of the shots that show it
      def self.build(workshop, shot_id, document, within)
        if within.include?(shot_id)
          raise Refused.new(
            "#{document.name} would be seen within itself: one of its layers shows a shot that shows it. " \
              "Choose another, or leave out that one's own layers.",
            code: "bad_value"
          )
        end

        layers = document.of(:layer).select { |layer| layer[:what] == "other" && layer[:shot] }
        others = layers.group_by { |layer| layer[:shot] }.filter_map do |id, showing|
          other = known(workshop, id) or next
          whole = showing.any? { |layer| layer[:finished] }
          [id, whole ? build(workshop, id, other, within + [shot_id]) : new(workshop, other, {}, {})]
        end
        new(workshop, document, {}, others.to_h)
      end

      # @return [Shot::Document, nil] nothing for one that was let go
      def self.known(workshop, id)
        workshop.shots.document(id)
      rescue Refused
        nil
      end
      private_class_method :known

      # @param data [Hash] from {#to_job}
      def self.from(workshop, document, data)
        others = data["others"].transform_values { |row| from(workshop, workshop.shots.read(row["document"]), row) }
        new(workshop, document, data["keys"].transform_values { |keys| keys.transform_keys(&:to_i) }, others)
      end

      attr_reader :document

      def initialize(workshop, document, keys, others)
        @workshop, @document, @keys, @others = workshop, document, keys, others
      end

      # @return [Hash] plain data
      def to_job =
        {
          "keys" => @keys,
          "others" => @others.transform_values { |other| other.to_job.merge("document" => other.document.to_json) }
        }

      # Facts of a plate, as {Finish::Stack} asks for them.
      def plate(digest) = @workshop.plates.plate(digest)

      # @return [Shot::Document, nil]
      def shot(id) = @others[id]&.document

      # @return [Finish::Stack]
      def stack = @stack ||= Finish::Stack.new(@document, self)

      # @param layer [Hash] from {Finish::Stack#at}
      # @return [Rushes] of the shot that a layer shows
      def of(layer) = (layer["what"] == "other") ? @others.fetch(layer["shot"]) : self

      # @param layer [Hash] from {Finish::Stack#at}
      # @return [Shot::Document] the one that a layer shows
      def document_of(layer) = of(layer).document

      # @return [String, nil] the gas of a frame that a layer shows
      def key(layer, frame) = of(layer).gas(frame, layer.fetch("made", "best"))

      # @param made [String] "best", "draft" or "full"
      # @return [String, nil] the gas of a frame of its own
      def gas(frame, made = "best") = @keys.dig(made, frame)

      # @api private
      def gather(shot_id, frames, quiet)
        shown = frames.flat_map { |frame| stack.at(frame) }
        take(shot_id, frames, quiet)
        shown
          .select { |layer| layer["what"] == "shot" }
          .group_by { |layer| layer["made"] }
          .each { |made, layers| take(shot_id, frames_of(layers), quiet, made) }
        shown
          .select { |layer| layer["what"] == "other" }
          .group_by { |layer| layer.values_at("shot", "made") }
          .each do |(id, made), layers|
            @others[id].gather(id, frames_of(layers), quiet) if layers.any? { |layer| layer["finished"] }
            @others[id].take(id, frames_of(layers), quiet, made)
          rescue Refused => error
            raise Refused.new(
              "Of the shot #{@others[id].document.name}, which a layer shows: #{error.message}", code: error.code
            )
          end
      end

      # @api private
      def take(shot_id, frames, quiet, made = "best")
        there = quiet ? @workshop.runs.there(shot_id) : nil
        keys = @keys[made] ||= {}
        (frames.uniq - keys.keys).each do |frame|
          keys[frame] = (there && !there.include?(frame)) ? nil : run(shot_id, frame, quiet, made)
        end
      end

      private

      def frames_of(layers) = layers.flat_map { |layer| layer["at"].map(&:first) }.uniq

      def run(shot_id, frame, quiet, made)
        @workshop.runs.best(shot_id, frame, (made == "best") ? Runs::BEST : [made])[1]
      rescue Refused
        # It is there, but not so.
        raise unless quiet && made != "best"
      end
    end
  end
end
