# frozen_string_literal: true

module Vumbral
  module Studio
    # What exported files are called.
    class ExportNames
      # What files end in that have no format's own name.
      ENDINGS = {"png16" => "png", "points" => "ply", "drops" => "ply", "vdb-surface" => "vdb"}.freeze

      # @param payload [Hash] of the job; @param shot [String] the shot's id
      def initialize(payload, shot)
        @out, @as = payload.values_at("out", "as")
        @pattern =
          payload.fetch("name", "{shot}.{frame}").gsub("{shot}", shot).gsub("{export}", plain(payload["title"].to_s))
      end

      # @return [String] of a frame's file
      def frame(number) = of(@pattern.gsub("{frame}", format("%04d", number)), ENDINGS.fetch(@as, @as))

      # @return [String] of one file for all frames, or of one beside them
      def all(ending) = of(bare, ending)

      # @return [String] without what only a frame has
      def bare = @pattern.gsub(/[ ._-]*\{frame\}/, "").then { |name| name.empty? ? "frames" : name }

      private

      def of(name, ending) = File.join(@out, "#{name}.#{ending}")

      def plain(title) =
        title.gsub(/[^\w.-]+/, "-").gsub(/\A[.-]+|-+\z/, "").then { |word| word.empty? ? "export" : word }
    end
  end
end
