# frozen_string_literal: true

require "json"

module Vumbral
  module Demo
    # Makes the demo shots, already run as drafts and with a print each, so that the first screen
    # moves. A shot that was made once is not made again, even if it was thrown away since.
    class Maker
      SHOTS = [KilnDraw, LidBurst, MorningYard].freeze

      # @param workshop [Studio::Workshop]
      # @yield [job, title] carries a job out and gives back its result
      def initialize(workshop, &follow)
        @workshop = workshop
        @follow = follow
      end

      # @return [Array<String>] names of the shots made now
      def call
        SHOTS.reject { |shot| made.include?(shot::ID) }.map do |shot|
          make(shot)
          @workshop.home.write(list, JSON.generate(made + [shot::ID]))
          shot::NAME
        end
      end

      private

      def list = @workshop.home.within("demo.json")

      def made = File.exist?(list) ? JSON.parse(File.read(list)) : []

      def make(shot)
        # One that was interrupted goes on.
        row = @workshop.db[:shots][id: shot::ID] || @workshop.shots.create(shot::NAME, starter: "empty")
        if row[:head] == 1
          meshes = shot.meshes.transform_values { |mesh| @workshop.assets.bring(Formats::OBJ.write(mesh), "#{shot::ID}.obj")[:digest] }
          @workshop.shots.edit(row[:id], shot.edits(meshes))
        end
        @follow.call(@workshop.runs.start(row[:id], "draft")[:job_id], shot::NAME)
        @follow.call(@workshop.prints.take(row[:id], shot::PRINT), "Its print") if @workshop.prints.list(row[:id]).empty?
      end
    end
  end
end
