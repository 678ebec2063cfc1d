# frozen_string_literal: true

module Vumbral
  module Studio
    # Takes jobs from the queue and carries them out, one at a time.
    class Worker
      PAUSE = 0.008
      # So long it asks only whether anything was written: other workers may have died without a word.
      TRUST = 0.5
      HEARTBEAT = 3.0
      # What a process of its own is started with: no thread waits by turning, and fields that come and go by the dozen
      # do not have everything else looked through each time.
      SURROUNDINGS = {
        "OMP_WAIT_POLICY" => "passive", "RUBY_GC_MALLOC_LIMIT" => "64000000", "RUBY_GC_MALLOC_LIMIT_MAX" => "128000000",
        "RUBY_GC_OLDMALLOC_LIMIT" => "64000000", "RUBY_GC_OLDMALLOC_LIMIT_MAX" => "128000000"
      }.freeze
      # Told to stop, what is in hand has so long to come to a good place.
      GRACE = 1.0
      WORK = {"run" => "RunWork", "strip" => "StripWork", "print" => "PrintWork", "export" => "ExportWork",
              "light" => "LightWork",
              "mesh" => "BringWork", "picture" => "BringWork", "drawing" => "BringWork", "volume" => "BringWork",
              "bodies" => "BodiesWork",
              "meter" => "MeterWork", "glance" => "GlanceWork", "fog" => "FogWork", "sketch" => "SketchWork",
              "surface" => "SurfaceWork", "balance" => "BalanceWork", "sheet" => "SheetWork", "reel" => "ReelWork",
              "element" => "ElementWork",
              "plate" => "PlateWork", "track" => "TrackWork", "pin" => "PinWork", "spots" => "SpotsWork",
              "sighting" => "SightingWork", "table" => "BringWork", "bundle" => "BringWork", "live" => "LiveWork",
              "clip" => "ClipWork", "gauge" => "GaugeWork",
              "cut" => "CutWork", "variation" => "VariationWork", "tile" => "TileWork", "lighting" => "LightingWork",
              "skin" => "SkinWork"}.freeze

      # What of a job is done in the data folder itself, once its work came to something.
      # @param task [Task]; @param result [Hash]; @param work [#settle, nil]
      # @return [Hash] what it came to
      def self.settled(task, result, work = nil)
        kind = Studio.const_get(WORK.fetch(task.kind))
        kind.method_defined?(:settle) ? (work || kind.new(task)).settle(result) : result
      end

      # Given to the work: says how far it is, and whether it is still wanted.
      class Task
        Stopped = Class.new(StandardError)
        # Raised where work should make way: the worker stops, or somebody waits.
        GivenBack = Class.new(StandardError)
        # Seconds between two words on how far it is.
        OFTEN = 0.2

        attr_reader :id, :shot, :payload, :workshop

        def initialize(workshop, job, worker = nil)
          @workshop = workshop
          @worker = worker
          @job = job
          @id = job[:id]
          @shot = job[:shot_id]
          @payload = JSON.parse(job[:payload])
        end

        def kind = @job[:kind]

        # Whether another machine made the same already.
        def compared? = !@job[:sums].nil?

        # How far it was when it was cut off or handed back.
        def done = @job[:resumed] ? @job[:done] : 0

        # Says how far it is, a few times a second at most: nobody sees more, and all who watch have to be told.
        # @raise [Stopped] when the job was cancelled
        def progress(done, total, note = nil, from_here: false)
          @untold = [done, total, note]
          now = Process.clock_gettime(Process::CLOCK_MONOTONIC)
          tell(now, from_here) if from_here || done >= total || !@told || now - @told >= OFTEN
          check
        end

        def check
          raise Stopped if @workshop.jobs.cancelled?(@id)
          return unless makes_way?

          # Where it is gone on with depends on it.
          tell(@told) if @untold
          raise GivenBack
        end

        private

        def makes_way? =
          @workshop.jobs.held?(@id) || @worker&.stopping? ||
            (@job[:background] && @workshop.jobs.holds_up?(@job))

        def tell(now, from_here = false)
          @workshop.jobs.progress(@id, *@untold, from_here: from_here)
          @untold = nil
          @told = now
        end
      end

      # Renews the claim on a job while it is worked on. It is never killed: a thread that is torn out of SQLite
      # leaves its connection locked for good.
      class Heart
        def initialize(workshop, id)
          @workshop = workshop
          @id = id
          @lock = Mutex.new
          @rest = ConditionVariable.new
          @thread = Thread.new { beat }
        end

        def stop
          @lock.synchronize { (@stopped = true) && @rest.signal }
          @thread.join
        end

        private

        def beat
          loop do
            return if @lock.synchronize { @stopped || @rest.wait(@lock, HEARTBEAT) && @stopped }

            @workshop.jobs.renew(@id)
          rescue Sequel::DatabaseError
            next
          end
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

      # Says that it is enough; may be called from a signal's handler.
      def stop = @stopping = true

      def stopping? = @stopping || orphan?

      # Works until told to stop.
      # @param leave [#call, nil] called when something in hand did not come to an end in time; the process
      #   should end there
      def run(leave: nil)
        watch(leave) if leave
        until @stopping || orphan?
          job = worth_asking? && @workshop.jobs.claim(@lanes)
          job ? work(job) : sleep(PAUSE)
        end
      rescue Sequel::DatabaseError => error
        # Another process held the data for long, or the disk is full; nothing is lost by trying again.
        warn "worker: #{error.message.lines.first}"
        @workshop.home.spend_reserve if Database.full?(error)
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
        task = Task.new(@workshop, job, self)
        @job, @claimed = job[:id], job
        heart = Heart.new(@workshop, job[:id])
        work = Studio.const_get(WORK.fetch(job[:kind])).new(task)
        @workshop.jobs.finish(job[:id], settle(task, work, work.call) || {})
      rescue Task::Stopped
        @workshop.jobs.close(job[:id], "cancelled")
      rescue Task::GivenBack
        @workshop.jobs.release(job[:id])
      rescue Refused => error
        @workshop.jobs.fail(job[:id], error.message, error.code)
      rescue NoMemoryError
        @workshop.jobs.fail(job[:id], "There was not enough memory; finished frames are kept. " \
          "Take larger voxels or a smaller chamber.", "no_memory")
      rescue StandardError, SystemStackError => error
        fail_with(job, error)
      ensure
        @job = nil
        heart&.stop
        work.ended if work.respond_to?(:ended)
      end

      def settle(task, work, result)
        @workshop.foreman.compare(@claimed) if @claimed[:sums]
        Worker.settled(task, result, work)
      end

      def fail_with(job, error)
        if error.is_a?(Errno::ENOSPC) || Database.full?(error)
          @workshop.home.spend_reserve
          return @workshop.jobs.fail(job[:id], "The disk is full. #{Home::REMEDY}", "disk_full")
        end
        warn "#{job[:kind]} #{job[:id]}: #{error.class}: #{error.message}\n#{error.backtrace.first(12).join("\n")}"
        words = Refused.new("#{error.class}: #{error.message.lines.first.to_s.strip[0, 160]}").message
        @workshop.jobs.fail(job[:id], "Something went wrong inside Vumbral (#{words}); nothing is lost.", "internal")
      end

      # Frames are written whole or not at all, so what cannot wait for its frame may be left where it is.
      def watch(leave)
        Thread.new do
          sleep 0.05 until @stopping
          sleep GRACE
          @workshop.jobs.release(@job) if @job
        rescue Sequel::DatabaseError
          # Taken up again when its lease has run out.
        ensure
          leave.call if @stopping
        end
      end

      # After a job there may be another, whatever was written.
      def worth_asking?
        @changes ||= Database::Changes.new(@workshop.home.database)
        now = Process.clock_gettime(Process::CLOCK_MONOTONIC)
        news = @changes.any? && @workshop.jobs.queued?(@lanes)
        found = news || now - (@asked || -TRUST) > TRUST
        @asked = now if found
        found
      end

      def orphan? = @parent && Process.ppid != @parent
    end
  end
end
