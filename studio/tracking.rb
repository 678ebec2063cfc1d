# frozen_string_literal: true

module Vumbral
  module Studio
    # Follows spots of a shot's finish.
    class Tracking
      def initialize(workshop)
        @workshop = workshop
      end

      # @param node_id [String] of a tracked spot, whose place is known at `from`
      # @param to [Integer] the last frame; before `from` it is followed back
      # @param by [String, nil] who asks, whose step it becomes
      # @return [Integer] the job's id
      # @raise [Refused]
      def start(shot_id, node_id, from, to, by: nil)
        document = @workshop.shots.document(shot_id)
        node = document.node(node_id)
        raise Refused.new("#{node.name} is no tracked spot.", code: "bad_edit") unless node.kind.name == :track

        layer = document.nodes[node[:layer]] or
          raise Refused.new("#{node.name} is sought in no layer yet; choose the one with the plate.", code: "no_layer")
        first, last = document.first_frame, document.last_frame
        unless [from, to].all? { |frame| frame.between?(first, last) }
          raise Refused.new(
            "Frames #{from} and #{to} are not both in the shot; it goes from #{first} to #{last}.",
            code: "out_of_range"
          )
        end
        unless %w[plate shot other].include?(layer[:what])
          raise Refused.new(
            "#{layer.name} shows nothing that moves; a spot is sought in a plate or in the shot's own picture.",
            code: "bad_value"
          )
        end

        frames = (from <= to) ? (from..to).to_a : from.downto(to).to_a
        @workshop.jobs.add(
          "track",
          shot_id,
          {
            document: document.to_json, node: node_id, frames: frames,
            rushes: Rushes.of(@workshop, shot_id, document, frames, quiet: true).to_job, by: by
          }
        )
      end

      # Evens what was found, and fills frames between that have no key.
      # @param frames [Float] width of the bell that places are evened by
      # @return [Hash] the step
      # @raise [Refused]
      def smooth(shot_id, node_id, frames, by: nil)
        unless frames.is_a?(Numeric) && frames.between?(0, 24)
          raise Refused.new("Places are evened over 0 to 24 frames.", code: "out_of_range")
        end

        node = @workshop.shots.document(shot_id).node(node_id)
        keys = (node.kind.name == :track) ? node.keyed(:x)&.to_a : nil
        if keys.nil? || keys.size < 3
          raise Refused.new(
            "#{node.name} has not been followed, so there is nothing to make even.", code: "nothing_to_do"
          )
        end

        all = (keys.first[:frame]..keys.last[:frame]).to_a
        edits =
          %i[x y].flat_map do |dial|
            all
              .zip(Finish::Tracker.even(all.map { |frame| node[dial, frame] }, frames))
              .map do |frame, value|
                {
                  "do" => "key", "node" => node_id, "dial" => dial.to_s, "frame" => frame, "value" => value.round(5),
                  "ease" => "linear"
                }
              end
          end
        @workshop.shots.step(shot_id, edits, "#{node.name} made even", by: by)
      end

      # Puts a prop where its tracked spots are, on all frames on which all of them are known.
      # @return [Integer] the job's id
      # @raise [Refused]
      def pin(shot_id, prop_id, by: nil)
        document = @workshop.shots.document(shot_id)
        prop = document.node(prop_id)
        raise Refused.new("#{prop.name} is no prop.", code: "bad_edit") unless prop.kind.name == :prop
        if prop[:leader]
          raise Refused.new("#{prop.name} goes with another prop; let it go alone, then pin it.", code: "bad_edit")
        end

        Finish::Pinning.new(spots(document, prop).map { |spot| spot[:place] }, 1.0)
        known(document, prop)
        @workshop.jobs.add("pin", shot_id, {document: document.to_json, prop: prop_id, by: by})
      end

      # @return [Array<Shot::Node>] tracked spots that pin a prop
      def spots(document, prop) = document.of(:track).select { |spot| spot[:prop] == prop.id }

      # @return [Array<Integer>] frames on which all of them are known
      # @raise [Refused] where there is none
      def known(document, prop)
        frames = spots(document, prop).map { |spot| (spot.keyed(:x)&.to_a || []).map { |key| key[:frame] } }.reduce(:&)
        if frames.nil? || frames.empty?
          raise Refused.new(
            "The spots of #{prop.name} are not all known on any frame; follow each of them first.",
            code: "no_spot"
          )
        end

        frames.sort
      end

      # @param found [Array<Finish::Trail::Found>]; @param size [Array(Integer, Integer)] pixels of the frame
      # @return [Hash{String => Array<Hash>}] keys by dial
      def keys(found, size)
        {
          "x" => ->(spot) { 100.0 * spot.x / size[0] }, "y" => ->(spot) { 100.0 * spot.y / size[1] },
          "sure" => ->(spot) { spot.sure.clamp(0.0, 1.0) }
        }.transform_values do |value|
          found.map { |spot| {"frame" => spot.frame, "value" => value[spot].round(5), "ease" => "linear"} }
        end
      end

      # @return [Array<Hash>] edits that make keys of what was found, see {#keys}
      def edits(node_id, found, size)
        keys(found, size).flat_map do |dial, keys|
          keys.map { |key| key.merge("do" => "key", "node" => node_id, "dial" => dial) }
        end
      end
    end
  end
end
