# frozen_string_literal: true

require "json"

module Vumbral
  module Studio
    module Farm
      # What goes to another machine with a job: all that it is made of which is not a file. Files are asked for by
      # their names.
      class Parcel
        DIGEST = /\b\h{24,64}\b/
        # What a frame is put down as, by what it needs besides its job.
        TABLES = %i[shots revisions runs strips caches assets].freeze

        # @param job [Hash] its row
        def initialize(workshop, job)
          @workshop, @job = workshop, job
          @payload = JSON.parse(job[:payload])
        end

        # @return [Hash] plain data
        def to_h
          rows = of_kind
          text = @job[:payload] + rows.values.flatten.map { |row| row.values.grep(String).join(" ") }.join(" ")
          rows[:caches] = named(:caches, text)
          rows[:assets] = named(:assets, text + rows[:caches].map { |row| row[:document].to_s }.join(" "))
          {
            job: @job.slice(:id, :kind, :lane, :shot_id, :payload, :done, :resumed, :background), rows: rows,
            known: known, outputs: Outputs.new(@workshop, @job).allowed
          }
        end

        private

        # Of a run: its row, and the settings that it was started with.
        def of_kind
          case @job[:kind]
          when "run" then run
          when "variation" then {shots: shots, strips: [@workshop.strips.row(@payload["strip"])]}
          else {shots: shots}
          end
        end

        def run
          row = @workshop.runs.fetch(@payload["run"])
          {shots: shots, runs: [row], revisions: [@workshop.shots.revision(row[:shot_id], row[:revision])].compact}
        end

        def shots = @job[:shot_id] ? @workshop.db[:shots].where(id: @job[:shot_id]).all : []

        def named(table, text) =
          text.scan(DIGEST).uniq.each_slice(500).flat_map { |some| @workshop.db[table].where(digest: some).all }

        # @return [Hash{String => Boolean}] whether there is a frame, of all that the job may ask for
        def known
          keys = Outputs.new(@workshop, @job).keys
          there = @workshop.frames.known(keys)
          keys.to_h { |key| [key, there.include?(key)] }
        end
      end
    end
  end
end
