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

        layer = document.nodes[node[:layer]] or raise Refused.new("#{node.name} is sought in no layer yet; choose the one with the plate.", code: "no_layer")
        first, last = document.first_frame, document.last_frame
        raise Refused.new("Frames #{from} and #{to} are not both in the shot; it goes from #{first} to #{last}.", code: "out_of_range") unless [from, to].all? { |frame| frame.between?(first, last) }
        raise Refused.new("#{layer.name} shows nothing that moves; a spot is sought in a plate or in the shot's own picture.", code: "bad_value") unless %w[plate shot].include?(layer[:what])

        frames = (from <= to) ? (from..to).to_a : from.downto(to).to_a
        keys = (layer[:what] == "shot") ? @workshop.finishing.keys(shot_id, frames.flat_map { |frame| @workshop.finishing.frames(document, frame) }.uniq, quiet: true) : {}
        @workshop.jobs.add("track", shot_id, {document: document.to_json, node: node_id, frames: frames, keys: keys, by: by})
      end

      # @param found [Array<Finish::Tracker::Found>]; @param size [Array(Integer, Integer)] pixels of the frame
      # @return [Array<Hash>] edits that make keys of them
      def edits(node_id, found, size)
        found.flat_map do |spot|
          {"x" => 100.0 * spot.x / size[0], "y" => 100.0 * spot.y / size[1], "sure" => spot.sure.clamp(0.0, 1.0)}
            .map { |dial, value| {"do" => "key", "node" => node_id, "dial" => dial, "frame" => spot.frame, "value" => value.round(5), "ease" => "linear"} }
        end
      end
    end
  end
end
