# frozen_string_literal: true

require "socket"

module Vumbral
  module Studio
    module Farm
      # The other machines that work for this one.
      class Machines
        # Who gave no sign of life for so long is away, seconds.
        SILENT = 20.0
        # Those away so long are no longer told of.
        FORGOTTEN = 24 * 3600
        NAME = 1..60
        ID = /\A[a-z0-9-]{8,40}\z/
        KINDS = {"cut" => "frames of an export", "variation" => "a variation of a test strip", "tile" => "a part of a picture", "lighting" => "lighting frames", "skin" => "a liquid's surface"}.freeze

        def initialize(workshop)
          @workshop = workshop
        end

        # One that begins to work, or comes back.
        # @param facts [Hash] "id", "name", "cores", "memory" (bytes that work may take), "speed"
        # @return [Hash] its row
        # @raise [Refused]
        def welcome(facts)
          id, name, cores, memory, speed = facts.values_at("id", "name", "cores", "memory", "speed")
          unless id.to_s.match?(ID) && NAME.cover?(name.to_s.size) && cores.is_a?(Integer) && cores.between?(1, 4096) &&
              memory.is_a?(Integer) && memory.positive? && speed.is_a?(Numeric)
            raise Refused.new("A machine tells its id, name, cores, memory and speed.", code: "bad_value")
          end

          now = @workshop.now
          table.insert_conflict(
            target: :id,
            update: {
              name: name, cores: cores, memory: memory, speed: speed, seen_at: now, since: now
            }
          ).insert(id: id, name: name, cores: cores, memory: memory, speed: speed, seen_at: now, since: now)
          # Held against this one, which is not measured while somebody waits for an answer.
          if own_speed.nil? && @workshop.jobs.active.none? { |job| job[:kind] == "gauge" }
            @workshop.jobs.add("gauge", nil, {}, background: true)
          end
          tell
          fetch(id)
        end

        # @raise [Refused] for one that was let go
        def fetch(id) =
          table[id: id.to_s] ||
            raise(
              Refused.new("This machine was let go; start its worker again to have it back.", code: "unknown_machine")
            )

        # Says that it lives. @return [Hash] its row
        def sign(id)
          row = fetch(id)
          table.where(id: row[:id]).update(seen_at: @workshop.now)
          tell if @workshop.now - row[:seen_at] > SILENT
          row
        end

        # It has done something. @param seconds [Float]
        def worked(id, seconds) =
          table.where(id: id).update(done: Sequel[:done] + 1, seconds: Sequel[:seconds] + seconds)

        # It gets no work for now. @param why [String, nil] a sentence
        def pause(id, why = nil) = change(id, paused: true, trouble: why)

        def go_on(id) = change(id, paused: false, trouble: nil)

        # What it has in hand is taken up by others.
        def let_go(id)
          row = fetch(id)
          table.where(id: row[:id]).delete
          @workshop.db[:jobs]
            .where(state: "running", machine: row[:id])
            .select_map(:id)
            .each { |job| @workshop.jobs.release(job) }
          tell
        end

        # @return [Array<Hash>] those that take work now
        def working = table.where(paused: false).where { |row| row.seen_at > @workshop.now - SILENT }.all

        def any? = !working.empty?

        # @param memory [Integer] bytes that each piece of the work takes
        # @return [Float] how much is done at once, where this machine alone does 1
        def capacity(memory = 0)
          others = working.select { |row| row[:memory] >= memory }
          own = own_speed
          1.0 + others.sum { |row| own ? row[:speed].to_f / [own, 0.01].max : 1.0 }
        end

        # @return [Array<Hash>] this one first: name, cores, memory, speed, state, what it does, and when it was seen
        def list
          table.where { |row| row.seen_at < @workshop.now - FORGOTTEN }.delete
          doing = running
          others = table.order(:since).all.map { |row| show(row, doing[row[:id]].to_a) }
          return [] if others.empty?

          [
            {
              id: nil, name: Socket.gethostname, cores: Gauge.cores,
              memory: (@workshop.machine.memory * Machine::SHARE).to_i, speed: own_speed, state: "here", seen: 0.0,
              doing: doing[nil].to_a, done: nil, trouble: nil
            }
          ] + others
        end

        private

        def table = @workshop.db[:machines]

        def own_speed = @own_speed ||= Gauge.known(@workshop.home)

        def change(id, **facts)
          row = fetch(id)
          table.where(id: row[:id]).update(**facts)
          tell
          fetch(id)
        end

        def tell = @workshop.events.tell("machines", nil)

        def show(row, doing)
          seen = [@workshop.now - row[:seen_at], 0.0].max.round(1)
          state = if row[:paused] then "paused"
          else
            (seen > SILENT) ? "silent" : "working"
          end
          row.slice(:id, :name, :cores, :memory, :speed, :done, :trouble).merge(state: state, seen: seen, doing: doing)
        end

        # @return [Hash{String, nil => Array<Hash>}] what is under way, by machine: kind, what kind of part, shot, note
        def running
          rows =
            @workshop.db[:jobs]
              .where(state: "running")
              .select(:id, :kind, :shot_id, :machine, :parent_id, :note, :done, :total)
              .all
          names = @workshop.db[:shots].where(id: rows.map { |row| row[:shot_id] }.compact.uniq).select_hash(:id, :name)
          rows
            .group_by { |row| row[:machine] }
            .transform_values do |all|
              all.map do |row|
                {
                  id: row[:id], kind: row[:kind], part: KINDS[row[:kind]], name: names[row[:shot_id]], note: row[:note],
                  done: row[:done], total: row[:total]
                }
              end
            end
        end
      end
    end
  end
end
