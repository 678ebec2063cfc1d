# frozen_string_literal: true

module Vumbral
  module Studio
    # Takes jobs from the queue and carries them out, one at a time.
    class Worker
      PAUSE = 0.02
      HEARTBEAT = 3.0
      WORK = {"run" => "RunWork", "print" => "PrintWork", "export" => "ExportWork", "light" => "LightWork", "mesh" => "MeshWork", "bodies" => "BodiesWork"}.freeze

      # Given to the work: says how far it is, and whether it is still wanted.
      class Task
        Stopped = Class.new(StandardError)

        attr_reader :id, :shot, :payload, :workshop

        def initialize(workshop, job)
          @workshop = workshop
          @id = job[:id]
          @shot = job[:shot_id]
          @payload = JSON.parse(job[:payload])
        end

        # @raise [Stopped] when the job was cancelled
        def progress(done, total, note = nil)
          @workshop.jobs.progress(@id, done, total, note)
          check
        end

        def check
          raise Stopped if @workshop.jobs.cancelled?(@id)
        end
      end

      # @param lanes [Array<String>] "long", "short"
      # @param parent [Integer, nil] a process without which this one should not go on
      def initialize(workshop, lanes: %w[long short], parent: nil)
        @workshop = workshop
        @lanes = lanes
        @parent = parent
        @stopping = false
      end

      def stop = @stopping = true

      # Works until told to stop.
      def run
        until @stopping || orphan?
          job = @workshop.jobs.claim(@lanes)
          job ? work(job) : sleep(PAUSE)
        end
      rescue Sequel::DatabaseError => error
        # Another process held the data for long; nothing is lost by trying again.
        warn "worker: #{error.message.lines.first}"
        sleep 0.5
        retry
      end

      # Carries out one certain job, unless another worker has it already.
      def run_one(id)
        job = @workshop.jobs.claim(nil, only: id)
        work(job) if job
      end

      private

      def work(job)
        task = Task.new(@workshop, job)
        heart = Thread.new { beat(job[:id]) }
        result = Studio.const_get(WORK.fetch(job[:kind])).new(task).call
        @workshop.jobs.finish(job[:id], result || {})
      rescue Task::Stopped
        @workshop.jobs.close(job[:id], "cancelled")
      rescue Refused => error
        @workshop.jobs.fail(job[:id], error.message, error.code)
      rescue NoMemoryError
        @workshop.jobs.fail(job[:id], "There was not enough memory; finished frames are kept. Take larger voxels or a smaller chamber.", "no_memory")
      rescue Errno::ENOSPC
        @workshop.jobs.fail(job[:id], "The disk is full. What was finished is kept; free some space and start again.", "disk_full")
      rescue => error
        warn "#{job[:kind]} #{job[:id]}: #{error.class}: #{error.message}\n#{error.backtrace.first(12).join("\n")}"
        @workshop.jobs.fail(job[:id], "Something went wrong inside Vumbral (#{error.class}: #{error.message.lines.first.to_s.strip[0, 160]}); nothing is lost.", "internal")
      ensure
        heart&.kill
      end

      def beat(id)
        loop do
          sleep HEARTBEAT
          @workshop.jobs.renew(id)
        rescue Sequel::DatabaseError
          next
        end
      end

      def orphan? = @parent && Process.ppid != @parent
    end
  end
end
