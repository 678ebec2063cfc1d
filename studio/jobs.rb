# frozen_string_literal: true

require "json"

module Vumbral
  module Studio
    # Work to be done outside the web process. A worker claims a job for a while and renews its
    # claim; a job whose worker is gone is taken up by the next one. This is the engine's whole
    # interface: {#add}, {#claim}, {#renew}, {#progress}, {#finish}, {#fail}, {#cancel}. {Farm::TicketJobs} has the same
    # one, and calls workers of other machines through Redis.
    class Jobs
      LEASE = 15.0
      MOST_ATTEMPTS = 3
      # Other machines come and go for reasons that are not the job's.
      MOST_ELSEWHERE = 8
      # What a person waits for comes first.
      URGENT = {{kind: %w[mesh picture drawing volume bodies meter glance fog sketch surface element plate table bundle
        live]} => 0, {kind: "print"} => 1}.freeze
      # Short work does not wait behind long: each lane has its own worker.
      LANES = {"run" => "long", "strip" => "long", "export" => "long", "print" => "short", "light" => "short",
               "mesh" => "short",
               "picture" => "short", "drawing" => "short", "volume" => "short", "bodies" => "short", "meter" => "short",
               "glance" => "short", "fog" => "short", "sketch" => "short", "surface" => "short", "balance" => "short",
               "sheet" => "short", "reel" => "short", "element" => "short", "plate" => "short", "track" => "short",
               "pin" => "short", "spots" => "short", "sighting" => "short", "table" => "short",
               "bundle" => "short", "live" => "short", "clip" => "short", "gauge" => "short",
               "cut" => "part", "variation" => "part", "tile" => "part", "lighting" => "part", "skin" => "part"}.freeze
      # What another machine can do as well: all that it takes goes along, or can be asked for by its name.
      PORTABLE = %w[print element surface cut variation tile lighting skin run].freeze
      # Of these somebody may see the outcome at once: this machine, which has all at hand, may take them for so long,
      # seconds.
      HERE_FIRST = %w[print element surface run].freeze
      HEAD_START = 0.15

      def initialize(workshop)
        @workshop = workshop
      end

      # @param background [Boolean] makes way for what somebody asked for
      # @param memory [Integer, nil] bytes that it takes, where that is known
      # @param of [Array(Integer, Integer), nil] the job that it is a part of, and which part
      # @return [Integer] the job's id
      def add(kind, shot_id, payload, background: false, memory: nil, of: nil)
        @workshop.db.transaction do
          id = table.insert(kind: kind, lane: LANES.fetch(kind), shot_id: shot_id, payload: JSON.generate(payload),
            created_at: @workshop.now, background: background, memory: memory, parent_id: of&.first, part: of&.last)
          tell(id)
          # Who is called before the work can be seen would find none.
          @workshop.db.after_commit { offer(kind) }
          id
        end
      end

      # Calls those who may do work of a kind, which waits now. Workers of this machine look for themselves.
      def offer(_kind) = nil

      # @param machine [Hash, nil] of the {Farm::Machines}, where it is done elsewhere
      # @return [Hash, nil] a job of these lanes (or this id) to do now
      def claim(lanes, worker: Process.pid, only: nil, machine: nil)
        revive
        queue = table.where(state: "queued", cancel: false, held: false)
        queue = only ? queue.where(id: only) : queue.where(lane: lanes)
        queue = machine ? elsewhere(queue, machine) : queue
        return if queue.empty?

        @workshop.db.transaction(mode: :immediate) do
          # Of what is as urgent, shots take turns.
          row =
            queue.order(
              :background, Sequel.desc(:rank), Sequel.case(URGENT, 2),
              Sequel.case({{shot_id: last_served(lanes)} => 1}, 0), :id
            ).first
          next unless row

          table.where(id: row[:id]).update(
            state: "running", worker: machine ? nil : worker, machine: machine && machine[:id],
            lease: @workshop.now + LEASE, attempts: row[:attempts] + 1, base: row[:done], started_at: @workshop.now
          )
          tell(row[:id])
          fetch(row[:id])
        end
      end

      # @return [Boolean] whether something waits that this machine may take first
      def fresh?(lanes)
        !table
          .where(state: "queued", cancel: false, held: false, lane: lanes, kind: HERE_FIRST)
          .where { |row| row.created_at > @workshop.now - HEAD_START }
          .empty?
      end

      # Whether somebody holds a job back.
      def held?(id) = table.where(id: id).get(:held)

      # Hands a job back unfinished, to be gone on with later. It counts as no attempt.
      def release(id)
        @workshop.db.transaction do
          table.where(id: id, state: "running")
            .update(state: "queued", worker: nil, machine: nil, lease: nil, resumed: true,
              attempts: Sequel.function(:max, Sequel[:attempts] - 1, 0))
          tell(id)
        end
        offer(fetch(id)[:kind])
      end

      # Has a job that another machine did made once more, by others than those that made it.
      # @param not_by [String] the machines' ids, or "*": here
      # @param sums [String, nil] what it came to so far
      def once_more(id, not_by:, sums:, attempts: 0)
        table.where(id: id, state: "running").update(
          state: "queued", machine: nil, lease: nil, not_by: not_by, sums: sums, attempts: attempts
        )
        offer(fetch(id)[:kind])
      end

      # @return [Boolean] whether somebody waits for what a background job holds up
      def waiting?(lane) =
        !table.where(state: "queued", cancel: false, held: false, background: false, lane: lane).empty?

      # @param job [Hash] one in the background
      # @return [Boolean] whether somebody waits for what it holds up. The light of a shot that was left makes way for
      #   that of another after each frame, for one looks at that
      def holds_up?(job)
        return true if waiting?(job[:lane])

        job[:kind] == "light" &&
          !table.where(state: "queued", cancel: false, held: false, kind: "light").exclude(shot_id: job[:shot_id]).empty?
      end

      # @return [Boolean] whether anything waits at all, found as quickly as can be
      def queued?(lanes)
        @queued ||= {}
        @queued[lanes] ||=
          table.where(state: "queued", cancel: false, held: false, lane: lanes).select(:id).limit(1)
        !@queued[lanes].single_value!.nil?
      end

      # Says that the worker lives. @return [Boolean] whether the job is still wanted
      def renew(id)
        table.where(id: id).update(lease: @workshop.now + LEASE)
        !cancelled?(id)
      end

      # Tells all who listen how a job stands.
      def tell(id)
        job = table[id: id]
        # Parts are told of by the whole.
        @workshop.events.tell("job", job[:shot_id], **show(job)) unless job[:parent_id]
      end

      def cancelled?(id) = table.where(id: id).get(:cancel)

      # @param note [String, nil] what is being done, for people
      # @param from_here [Boolean] what is done so far took no time and says nothing of the pace
      def progress(id, done, total, note = nil, from_here: false)
        @workshop.db.transaction do
          base = from_here ? {base: done, started_at: @workshop.now} : {}
          table.where(id: id).update(done: done, total: total, note: note, lease: @workshop.now + LEASE, **base)
          tell(id)
        end
      end

      def finish(id, result = {})
        close(id, "done", result: JSON.generate(result))
      end

      def fail(id, message, code) = close(id, "failed", error: message, code: code)

      def close(id, state, **facts)
        @workshop.db.transaction do
          table.where(id: id).update(state: state, finished_at: @workshop.now, lease: nil, **facts)
          tell(id)
        end
      end

      # Asks for a job to stop; what it has finished stays.
      def cancel(id)
        job = fetch(id)
        return job unless %w[queued running].include?(job[:state])

        @workshop.db.transaction(mode: :immediate) do
          table.where(id: id).update(cancel: true)
          close(id, "cancelled") if table.where(id: id).get(:state) == "queued"
          parts(id).where(state: %w[queued running]).select_map(:id).each { |part| cancel(part) }
        end
        fetch(id)
      end

      # @return [Sequel::Dataset] the parts that a job was divided into
      def parts(id) = table.where(parent_id: id).order(:part)

      def cancel_of(shot_id, kind: nil)
        jobs = active(shot_id)
        jobs = jobs.select { |job| job[:kind] == kind } if kind
        jobs.each { |job| cancel(job[:id]) }
      end

      # @return [Array<Hash>] jobs not ended yet
      def active(shot_id = nil)
        rows = table.where(state: %w[queued running], parent_id: nil)
        rows = rows.where(shot_id: shot_id) if shot_id
        rows.order(:id).all
      end

      def fetch(id)
        table[id: id] || raise(Refused.new("There is no job #{id}.", code: "unknown_job"))
      end

      # @return [Array<Hash>] the newest jobs, ended or not, newest first
      def recent(count = 50) = table.where(parent_id: nil).reverse(:id).limit(count).all

      # What a job looks like from outside.
      def show(job)
        {
          id: job[:id], kind: job[:kind], shot: job[:shot_id], state: job[:state], done: job[:done], total: job[:total],
          note: trouble(job) || job[:note], error: job[:error], code: job[:code],
          result: job[:result] && JSON.parse(job[:result]), stopping: job[:cancel], held: job[:held], left: left(job),
          background: job[:background], resumed: job[:resumed],
          seconds: job[:started_at] && ((job[:finished_at] || @workshop.now) - job[:started_at]).round(3)
        }
      end

      # Jobs whose worker has gone are queued again; one that has taken three workers with it fails.
      def revive
        table.where(state: "running").select(:id, :kind, :worker, :machine, :lease, :attempts, :cancel).each do |row|
          next if row[:lease].to_f >= @workshop.now && (row[:machine] || alive?(row[:worker]))

          @workshop.db.transaction(mode: :immediate) do
            claimed = table.where(id: row[:id], state: "running", worker: row[:worker], machine: row[:machine])
            tell(row[:id]) if claimed.update(facts = fate(row)).positive?
            parts(row[:id]).where(state: "queued").update(state: "cancelled") unless facts[:state] == "queued"
          end
          offer(row[:kind])
        end
      end

      private

      def table = @workshop.db[:jobs]

      # The shot whose long work was begun last.
      def last_served(lanes) =
        table.where(lane: lanes || %w[long short]).exclude(started_at: nil).reverse(:started_at).get(:shot_id)

      LOST = "The worker stopped %d times during this job, perhaps for want of memory; finished frames are kept. Try " \
        "larger voxels."

      # What a machine may do of what waits.
      def elsewhere(queue, machine)
        queue
          .where(kind: PORTABLE)
          .exclude(Sequel.expr(kind: HERE_FIRST) & (Sequel[:created_at] > @workshop.now - HEAD_START))
          .where { (memory =~ nil) | (memory <= machine[:memory]) }
          .where(Sequel.expr(not_by: nil) | Sequel.lit("instr(not_by, ?) = 0 AND not_by <> '*'", machine[:id]))
      end

      # What becomes of a job whose worker is gone.
      def fate(row)
        if row[:cancel] then {state: "cancelled", finished_at: @workshop.now}
        elsif row[:attempts] >= (row[:machine] ? MOST_ELSEWHERE : MOST_ATTEMPTS)
          {state: "failed", finished_at: @workshop.now, code: "worker_lost", error: format(LOST, row[:attempts])}
        else
          {state: "queued", worker: nil, machine: nil, lease: nil, resumed: true}
        end
      end

      def alive?(worker)
        Process.kill(0, worker)
        true
      rescue Errno::ESRCH
        false
      rescue Errno::EPERM
        true
      end

      # Why nothing goes on, where that is so.
      def trouble(job) = %w[queued running].include?(job[:state]) ? @workshop.home.trouble(@workshop.now) : nil

      # Seconds still to go, at the pace so far.
      def left(job)
        made = job[:done] - job[:base]
        return unless job[:state] == "running" && made.positive? && job[:started_at]

        ((@workshop.now - job[:started_at]) / made * (job[:total] - job[:done])).round(1)
      end
    end
  end
end
