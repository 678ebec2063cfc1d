# frozen_string_literal: true

module Vumbral
  module Studio
    # Puts the data folder in order when Vumbral starts: what a kill left half done is taken up or away.
    class Upkeep
      # Files that were sent and never read are kept for a day.
      WAITING = 24 * 3600

      def initialize(workshop)
        @workshop = workshop
      end

      # @return [Hash] frames found again and gone
      def call
        home = @workshop.home
        home.reserve
        home.sweep
        Dir[home.within("incoming", "*")].each { |file| FileUtils.rm_f(file) if Time.now - File.mtime(file) > WAITING }
        away_with_parts(home)
        @workshop.jobs.revive
        @workshop.shots.tidy
        @workshop.prints.tidy
        @workshop.sculpts.tidy
        @workshop.live_draft.tidy
        @workshop.room.keep_within
        @workshop.frames.reconcile
      rescue Database::Error => error
        raise unless Database.full?(error)

        # The server comes up all the same, and says so.
        {found: 0, gone: 0}
      end

      private

      # Of work that has ended without taking them up.
      def away_with_parts(home)
        going = @workshop.jobs.active.map { |job| job[:id].to_s }
        Dir[home.within("cuts", "*")].each do |folder|
          FileUtils.rm_rf(folder) if !going.include?(File.basename(folder)) && Time.now - File.mtime(folder) > WAITING
        end
      end
    end
  end
end
