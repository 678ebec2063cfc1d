# frozen_string_literal: true

module Vumbral
  module Studio
    # What people do to work that waits, goes on or has ended: first, held back, gone on with, once more.
    class Queue
      # @param workshop [Workshop]
      def initialize(workshop)
        @workshop = workshop
      end

      # Comes before all others that wait in its lane. What is going on there is not cut off.
      # @return [Hash] the job
      # @raise [Refused] unless it waits
      def first(id)
        job = waiting(id)
        change(job, rank: (table.where(lane: job[:lane]).max(:rank) || 0) + 1, background: false)
      end

      # Holds it back: what is going on comes to a good place first, and keeps what it has finished.
      # @return [Hash] the job
      # @raise [Refused] where it has ended
      def hold(id) = change(unended(id), held: true)

      # @return [Hash] the job, which is gone on with
      def go_on(id) = change(unended(id), held: false)

      # Once more, from what it had finished.
      # @return [Hash] the job
      # @raise [Refused] unless it was stopped or failed
      def again(id)
        job = @workshop.jobs.fetch(id)
        unless %w[failed cancelled].include?(job[:state])
          raise Refused.new(
            "Job #{id} has not been stopped and did not fail, so there is nothing to do again.",
            code: "nothing_to_do"
          )
        end

        change(
          job, state: "queued", cancel: false, held: false, resumed: true, attempts: 0, worker: nil, lease: nil,
          error: nil, code: nil, result: nil, finished_at: nil
        )
      end

      # @return [Array<Hash>] what goes on and what waits, in the order in which it will be done; then what has ended,
      #   the newest first
      def list(ended: 30)
        active =
          @workshop.jobs.active.sort_by do |job|
            [(job[:state] == "running") ? 0 : 1, job[:held] ? 1 : 0, job[:background] ? 1 : 0, -job[:rank], job[:id]]
          end
        closed = table.where(parent_id: nil).exclude(state: %w[queued running]).reverse(:id).limit(ended).all
        names =
          @workshop.db[:shots].where(id: (active + closed).map { |job| job[:shot_id] }.compact.uniq).select_hash(
            :id, :name
          )
        machines = @workshop.db[:machines].select_hash(:id, :name)
        (active + closed).map do |job|
          @workshop
            .jobs
            .show(job)
            .merge(
              name: names[job[:shot_id]], machine: machines[job[:machine]], held: job[:held], lane: job[:lane],
              asked: job[:created_at], attempts: job[:attempts]
            )
        end
      end

      private

      def table = @workshop.db[:jobs]

      def unended(id)
        @workshop.jobs.fetch(id).tap do |job|
          unless %w[queued running].include?(job[:state])
            raise Refused.new("Job #{id} has ended.", code: "nothing_to_do")
          end
        end
      end

      def waiting(id)
        unended(id).tap do |job|
          raise Refused.new("Job #{id} is going on already.", code: "nothing_to_do") if job[:state] == "running"
        end
      end

      def change(job, **facts)
        @workshop.db.transaction do
          table.where(id: job[:id]).update(**facts)
          @workshop.jobs.tell(job[:id])
        end
        @workshop.jobs.offer(job[:kind])
        @workshop.jobs.fetch(job[:id])
      end
    end
  end
end
