# frozen_string_literal: true

module Vumbral
  module Shot
    # Which moment of something that was made before is seen at a frame.
    module Playing
      module_function

      # @param node [Shot::Node] a sculpt that begins with a run, a kept run or another sculpt; @param frame [Numeric]
      # @return [Numeric] the frame of that, perhaps between two
      def moment(document, node, frame)
        case node[:plays]
        when "speed" then begun(document, node) + gone(document, node, frame)
        when "place" then node[:place, frame]
        else node.kind.dials.key?(:shift) ? frame - node[:shift] : frame
        end
      end

      # Which frame of the shot's liquid is seen at a frame, and how far its surface is led from there along its motion.
      # @return [Array(Integer, Float)] the nearest frame, and seconds
      def poured(document, frame)
        node = document.of(:liquid)[0]
        return [frame, 0.0] if node.nil? || node[:plays] == "as"

        at = moment(document, node, frame).clamp(document.first_frame, document.last_frame)
        [at.round, ((at - at.round) * node[:time_scale, at.round] / document.rate).round(6)]
      end

      # @return [Float] how much of its own time passes in the shot's liquid from the frame before to this one, seconds
      def pace(document, frame)
        node = document.of(:liquid)[0] or return 1.0 / document.rate
        ((node[:plays] == "as") ? 1.0 : frames(document, node, frame)) * node[:time_scale, poured(document, frame)[0]] /
          document.rate
      end

      # @param prop [Shot::Node] one that shows the liquid of a kept run
      # @return [Float] how many frames after its first one that is seen at a frame
      def placed(prop, frame) = run(prop, :kept_speed, prop[:kept_from], frame)

      # @return [Hash] "run", the frame; "held", whether its ends last on; "led", how long a frame lasts (s), where
      #   moments between two are led along its motion
      def of(document, node, frame)
        at = moment(document, node, frame)
        return {"run" => at}.merge((at == at.round) ? {} : {"led" => lasts(document, at)}) if node[:plays] == "as"

        at = at.round if node[:between] == "nearest"
        {
          "run" => at, "held" => true,
          "led" => (node[:between] == "nearest") ? nil : lasts(document, [at, document.first_frame].max)
        }
      end

      # @return [Float] how many frames of what was made before go by from the frame before to this one
      def frames(document, node, frame) = moment(document, node, frame) - moment(document, node, frame - 1)

      # @return [Float] how many times as fast a run goes as the shot's gas would; that of a kept run for each second
      #   that one of its frames lasts
      def flow_pace(document, node, frame)
        seconds = lasts(document, frame)
        return 0.0 if seconds.zero?

        frames(document, node, frame) / seconds *
          ((node[:from] == "run") ? lasts(document, [moment(document, node, frame), document.first_frame].max) : 1.0)
      end

      # @return [Float] how long it is from a frame to the next where gas flows, s
      def lasts(document, frame) = document.the(:chamber)[:time_scale, frame] / document.rate

      # The frame that is seen on the first one.
      def begun(document, node) = node[:begins].zero? ? document.first_frame : node[:begins]

      # How many frames it has gone on since.
      def gone(document, node, frame) = run(node, :speed, document.first_frame, frame)

      # How many frames go by at a speed that may be keyed.
      def run(node, speed, first, frame)
        return node[speed] * (frame - first) unless node.curves.key?(speed)

        whole = frame.floor
        (first...whole).sum { |at| node[speed, at] } + (frame - whole) * node[speed, whole]
      end
      private_class_method :begun, :gone, :run
    end
  end
end
