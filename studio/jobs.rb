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
      # Short work does not wait behind long: each lane has its own worker.
      LANES = {"run" => "long", "export" => "long", "print" => "short", "light" => "short", "mesh" => "short", "bodies" => "short"}.freeze

      def initialize(workshop)
        @workshop = workshop
      end

      # @return [Integer] the job's id
      def add(kind, shot_id, payload)
        id = table.insert(kind: kind, lane: LANES.fetch(kind), shot_id: shot_id, payload: JSON.generate(payload), created_at: @workshop.now)
        tell(id)
        id
      end

      # @return [Hash, nil] a job of these lanes (or this id) to do now
      def claim(lanes, worker: Process.pid, only: nil)
        revive
        queue = table.where(state: "queued", cancel: false)
        queue = only ? queue.where(id: only) : queue.where(lane: lanes)
        # Prints are waited for by a person, so they come first.
        return if queue.empty?

        @workshop.db.transaction(mode: :immediate) do
          row = queue.order(Sequel.case({{kind: %w[mesh bodies]} => 0, {kind: "print"} => 1}, 2), :id).first
          next unless row

          table.where(id: row[:id]).update(state: "running", worker: worker, lease: @workshop.now + LEASE, attempts: row[:attempts] + 1,
            started_at: row[:started_at] || @workshop.now)
          tell(row[:id])
          fetch(row[:id])
        end
      end

      # Says that the worker lives. @return [Boolean] whether the job is still wanted
      def renew(id)
        table.where(id: id).update(lease: @workshop.now + LEASE)
        !cancelled?(id)
      end

      def cancelled?(id) = table.where(id: id).get(:cancel)

      # @param note [String, nil] what is being done, for people
      def progress(id, done, total, note = nil)
        table.where(id: id).update(done: done, total: total, note: note, lease: @workshop.now + LEASE)
        tell(id)
      end

      def finish(id, result = {})
        close(id, "done", result: JSON.generate(result))
      end

      def fail(id, message, code) = close(id, "failed", error: message, code: code)

      def close(id, state, **facts)
        table.where(id: id).update(state: state, finished_at: @workshop.now, lease: nil, **facts)
        tell(id)
      end

      # Asks for a job to stop; what it has finished stays.
      def cancel(id)
        job = fetch(id)
        return job unless %w[queued running].include?(job[:state])

        table.where(id: id).update(cancel: true)
        close(id, "cancelled") if job[:state] == "queued"
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

      # What a job looks like from outside.
      def show(job)
        {id: job[:id], kind: job[:kind], shot: job[:shot_id], state: job[:state], done: job[:done], total: job[:total], note: job[:note],
         error: job[:error], code: job[:code], result: job[:result] && JSON.parse(job[:result]), stopping: job[:cancel], left: left(job),
         seconds: job[:started_at] && ((job[:finished_at] || @workshop.now) - job[:started_at]).round(3)}
      end

      # Jobs whose worker has gone are queued again; one that has taken three workers with it fails.
      def revive
        table.where(state: "running").select(:id, :worker, :lease, :attempts, :cancel).each do |row|
          next if row[:lease].to_f >= @workshop.now && alive?(row[:worker])

          claimed = table.where(id: row[:id], state: "running", worker: row[:worker])
          if row[:cancel]
            claimed.update(state: "cancelled", finished_at: @workshop.now)
          elsif row[:attempts] >= MOST_ATTEMPTS
            claimed.update(state: "failed", finished_at: @workshop.now, code: "worker_lost",
              error: "The worker stopped #{MOST_ATTEMPTS} times during this job, perhaps for want of memory; finished frames are kept. Try larger voxels.")
          else
            claimed.update(state: "queued", worker: nil, lease: nil)
          end
          tell(row[:id])
        end
      end

      private

      def table = @workshop.db[:jobs]

      def tell(id)
        job = table[id: id]
        @workshop.events.tell("job", job[:shot_id], **show(job))
      end

      def alive?(worker)
        Process.kill(0, worker)
        true
      rescue Errno::ESRCH
        false
      rescue Errno::EPERM
        true
      end

      # Seconds still to go, at the pace so far.
      def left(job)
        return unless job[:state] == "running" && job[:done].positive? && job[:started_at]

        ((@workshop.now - job[:started_at]) / job[:done] * (job[:total] - job[:done])).round(1)
      end
    end
  end
end
