# frozen_string_literal: true

require "json"

module Vumbral
  module Studio
    # Work to be done outside the web process. A worker claims a job for a while and renews its
    # claim; a job whose worker is gone is taken up by the next one. This is the engine's whole
    # interface: {#add}, {#claim}, {#renew}, {#progress}, {#finish}, {#fail}, {#cancel}.
    class Jobs
      LEASE = 15.0
      MOST_ATTEMPTS = 3
      # What a person waits for comes first.
      URGENT = {{kind: %w[mesh picture drawing volume bodies meter glance fog sketch surface element plate table bundle live]} => 0, {kind: "print"} => 1}.freeze
      # Short work does not wait behind long: each lane has its own worker.
      LANES = {"run" => "long", "strip" => "long", "export" => "long", "print" => "short", "light" => "short", "mesh" => "short",
               "picture" => "short", "drawing" => "short", "volume" => "short", "bodies" => "short", "meter" => "short", "glance" => "short", "fog" => "short", "sketch" => "short", "surface" => "short", "balance" => "short", "sheet" => "short", "reel" => "short", "element" => "short", "plate" => "short", "track" => "short", "pin" => "short", "spots" => "short", "sighting" => "short", "table" => "short", "bundle" => "short", "live" => "short", "clip" => "short"}.freeze

      def initialize(workshop)
        @workshop = workshop
      end

      # @param background [Boolean] makes way for what somebody asked for
      # @return [Integer] the job's id
      def add(kind, shot_id, payload, background: false)
        @workshop.db.transaction do
          id = table.insert(kind: kind, lane: LANES.fetch(kind), shot_id: shot_id, payload: JSON.generate(payload),
            created_at: @workshop.now, background: background)
          tell(id)
          id
        end
      end

      # @return [Hash, nil] a job of these lanes (or this id) to do now
      def claim(lanes, worker: Process.pid, only: nil)
        revive
        queue = table.where(state: "queued", cancel: false, held: false)
        queue = only ? queue.where(id: only) : queue.where(lane: lanes)
        return if queue.empty?

        @workshop.db.transaction(mode: :immediate) do
          # Of what is as urgent, shots take turns.
          row = queue.order(:background, Sequel.desc(:rank), Sequel.case(URGENT, 2), Sequel.case({{shot_id: last_served(lanes)} => 1}, 0), :id).first
          next unless row

          table.where(id: row[:id]).update(state: "running", worker: worker, lease: @workshop.now + LEASE,
            attempts: row[:attempts] + 1, base: row[:done], started_at: @workshop.now)
          tell(row[:id])
          fetch(row[:id])
        end
      end

      # Whether somebody holds a job back.
      def held?(id) = table.where(id: id).get(:held)

      # Hands a job back unfinished, to be gone on with later. It counts as no attempt.
      def release(id)
        @workshop.db.transaction do
          table.where(id: id, state: "running")
            .update(state: "queued", worker: nil, lease: nil, resumed: true,
              attempts: Sequel.function(:max, Sequel[:attempts] - 1, 0))
          tell(id)
        end
      end

      # @return [Boolean] whether somebody waits for what a background job holds up
      def waiting?(lane) = !table.where(state: "queued", cancel: false, held: false, background: false, lane: lane).empty?

      # Says that the worker lives. @return [Boolean] whether the job is still wanted
      def renew(id)
        table.where(id: id).update(lease: @workshop.now + LEASE)
        !cancelled?(id)
      end

      # Tells all who listen how a job stands.
      def tell(id)
        job = table[id: id]
        @workshop.events.tell("job", job[:shot_id], **show(job))
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
        end
        fetch(id)
      end

      def cancel_of(shot_id, kind: nil)
        jobs = active(shot_id)
        jobs = jobs.select { |job| job[:kind] == kind } if kind
        jobs.each { |job| cancel(job[:id]) }
      end

      # @return [Array<Hash>] jobs not ended yet
      def active(shot_id = nil)
        rows = table.where(state: %w[queued running])
        rows = rows.where(shot_id: shot_id) if shot_id
        rows.order(:id).all
      end

      def fetch(id)
        table[id: id] || raise(Refused.new("There is no job #{id}.", code: "unknown_job"))
      end

      # @return [Array<Hash>] the newest jobs, ended or not, newest first
      def recent(count = 50) = table.reverse(:id).limit(count).all

      # What a job looks like from outside.
      def show(job)
        {id: job[:id], kind: job[:kind], shot: job[:shot_id], state: job[:state], done: job[:done], total: job[:total],
         note: trouble(job) || job[:note], error: job[:error], code: job[:code],
         result: job[:result] && JSON.parse(job[:result]),
         stopping: job[:cancel], held: job[:held], left: left(job), background: job[:background], resumed: job[:resumed],
         seconds: job[:started_at] && ((job[:finished_at] || @workshop.now) - job[:started_at]).round(3)}
      end

      # Jobs whose worker has gone are queued again; one that has taken three workers with it fails.
      def revive
        table.where(state: "running").select(:id, :worker, :lease, :attempts, :cancel).each do |row|
          next if row[:lease].to_f >= @workshop.now && alive?(row[:worker])

          @workshop.db.transaction(mode: :immediate) do
            claimed = table.where(id: row[:id], state: "running", worker: row[:worker])
            tell(row[:id]) if claimed.update(fate(row)).positive?
          end
        end
      end

      private

      def table = @workshop.db[:jobs]

      # The shot whose long work was begun last.
      def last_served(lanes) = table.where(lane: lanes || %w[long short]).exclude(started_at: nil).reverse(:started_at).get(:shot_id)

      LOST = "The worker stopped #{MOST_ATTEMPTS} times during this job, perhaps for want of memory; " \
        "finished frames are kept. Try larger voxels."

      # What becomes of a job whose worker is gone.
      def fate(row)
        if row[:cancel] then {state: "cancelled", finished_at: @workshop.now}
        elsif row[:attempts] >= MOST_ATTEMPTS
          {state: "failed", finished_at: @workshop.now, code: "worker_lost", error: LOST}
        else
          {state: "queued", worker: nil, lease: nil, resumed: true}
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
