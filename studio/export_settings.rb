# frozen_string_literal: true

module Vumbral
  module Studio
    # How frames are handed on, as a saved export has it or as it was asked for.
    class ExportSettings
      KIND = Shot::Kinds.fetch(:export)
      # What an OpenEXR picture may hold besides.
      PASSES = KIND.dials.values.select { |dial| dial.group == "Besides the picture" }
        .to_h { |dial| [dial.name.to_s, dial.help.delete_suffix(".").sub(/\A./, &:downcase)] }.freeze
      # Grids of a volume.
      GRIDS = KIND.dials.keys.grep(/\Agrid_/).map { |name| name.to_s.delete_prefix("grid_") }.freeze
      NAME = /\A[\w .{}-]{1,80}\z/

      class << self
        # @param node [Shot::Node] a saved export
        # @return [Hash] as {#initialize} takes it, with :as, :frames and :size
        def of(node, document)
          picture = document.the(:picture)
          size = ((node[:size] - 100.0).abs < 1e-6) ? nil : %i[width height].map { |dial| [(picture[dial] * node[:size] / 100.0).round, 1].max }
          {
            as: node[:as], frames: (node[:which] == "part") ? node[:from]..node[:to] : nil, size: size,
            passes: (node[:as] == "exr") ? PASSES.keys.select { |name| node[name.to_sym] } : [], props: node[:props],
            finish: node[:finish], name: node[:name], title: node.name, beside: node[:beside],
            grids: GRIDS.select { |grid| node[:"grid_#{grid}"] }, half: node[:half], clip: node[:clip],
            space: KIND.dials[:space].counts?(node) ? node[:space] : "screen"
          }
        end
      end

      attr_reader :passes, :props, :finish

      # @param passes [Array<String>] of {PASSES}; @param props [Array<String>] ids; @param finish [Boolean]
      # @param how [Hash] name (a pattern), title, beside, grids, half, clip, space: see the declaration
      # @raise [Refused]
      def initialize(passes: [], props: [], finish: true, **how)
        @passes, @props, @finish = Array(passes).map(&:to_s), Array(props).map(&:to_s), finish
        @how = {
          name: "{shot}.{frame}", title: "export", beside: false, grids: GRIDS, half: false, clip: nil, space: "screen"
        }.merge(how)
        unknown = @passes - PASSES.keys
        if unknown.any?
          raise Refused.new(
            "There is no pass #{unknown[0][0, 40].inspect}; there are: #{PASSES.keys.join(", ")}.",
            code: "bad_value"
          )
        end
        if @how[:grids].empty?
          raise Refused.new("No grid of the volume is chosen; choose one at least.", code: "bad_value")
        end

        checked(@how[:name].to_s)
      end

      # @return [Hash] plain data for the job
      def to_job = @how.merge(passes: @passes, props: @props)

      private

      def checked(name)
        strange = name.scan(/\{(.*?)\}/).flatten - %w[shot frame export]
        return if name.match?(NAME) && strange.empty? && !name.start_with?(".") && name.include?("{frame}")

        why = strange.any? ? "{#{strange[0][0, 20]}} is not known" : "#{name[0, 40].inspect} is no name for files"
        raise Refused.new(
          "#{why}: it takes letters, digits, spaces, points, hyphens, {shot}, {export} and {frame}, which has " \
            "to be in it.",
          code: "bad_value"
        )
      end
    end
  end
end
