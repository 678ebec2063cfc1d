# frozen_string_literal: true

require "digest"
require_relative "../support/shots"

module Vumbral
  module Torture
    # Three workers with folders of their own work for a server, called through Redis, and all of them are killed at
    # random while prints and a test strip are made. Nothing may be lost or be there twice, and all must be what one
    # machine makes.
    class Farm
      include Shots

      WORKERS = 3
      SIZE = [192, 108].freeze
      # Nothing takes longer than that, seconds; a claim whose worker is gone holds for {Studio::Jobs::LEASE}.
      LIMIT = 900

      # @param prints [Integer] how many; @param runs [Integer] of the test strip
      def initialize(
        home, random, seconds, prints: (seconds * 2).round.clamp(8, 200), runs: (seconds / 5).round.clamp(3, 12)
      )
        @server, @random, @prints, @runs = Server.new(home), random, prints, runs
        # Kills come evenly over the time that is there, and then no more.
        @seconds = seconds
        @kills = Hash.new(0)
        @failures = []
        @workers = {}
      end

      def words = @words || "needs redis-server, which is not here"

      # @return [Array<String>] what went wrong
      def call
        return [] unless system("command -v redis-server > /dev/null")

        redis
        @server.start("--redis", url)
        @workshop = Studio::Workshop.new(@server.home, redis: nil)
        WORKERS.times { |n| worker(n) }
        make
        strike
        check
        @words =
          "#{@prints} prints and #{@runs} runs by " \
            "#{@workshop.db[:jobs].exclude(machine: nil).distinct.select_map(:machine).size} machines in " \
            "#{(now - @began).round} s, #{@kills.map { |what, count| "#{count} × #{what}" }.join(", ")} killed"
        @failures
      ensure
        @workers.each_value { |pid| put_down(pid) }
        put_down(@redis)
        @server.kill if @server.pid
      end

      private

      def now = Process.clock_gettime(Process::CLOCK_MONOTONIC)

      def url = "redis://127.0.0.1:#{@port ||= TCPServer.open("127.0.0.1", 0) { |server| server.addr[1] }}/0"

      def redis =
        url &&
          @redis =
            Process.spawn(
              "redis-server", "--port", @port.to_s, "--save", "", "--appendonly", "no", %i[out err] => File::NULL
            )

      def worker(n)
        folder = File.join("#{@server.home}-away", n.to_s)
        @workers[n] = Process.spawn(
          File.join(ROOT, "bin", "vumbral"), "worker", "--server", "http://127.0.0.1:#{@server.port}", "--redis", url,
          "--cache", folder, "--name", "machine #{n + 1}", "--cores", "1",
          %i[out err] => [File.join(@server.home, "worker-#{n}.log"), "a"]
        )
      end

      def put_down(pid)
        Process.kill(:KILL, pid)
        Process.wait(pid)
      rescue Errno::ESRCH, Errno::ECHILD, TypeError
        nil
      end

      def make
        @document = small_shot("Farmed")
        _, shot = @server.ask("post", "/shots/import", @document.to_json)
        @id = shot["id"]
        _, run = @server.ask("post", "/shots/#{@id}/runs", {quality: "draft"})
        ended([run["job"]])
        @began = now
        @asked =
          Array.new(@prints) do |n|
            @server.ask("post", "/shots/#{@id}/prints", {frame: 1 + n % 8, size: SIZE})[1]["job"]
          end
        _, strip = @server.ask("post", "/shots/#{@id}/strips", {dials: axes, quality: "draft"})
        @strip = strip["job"]
      end

      def axes = [{node: "chamber", dial: "curl_boost", values: Array.new(@runs) { |n| 0.25 * n }}]

      # Kills until half of the time is over, then waits for the end.
      def strike
        until ended?(@asked + [@strip])
          raise "it takes more than #{LIMIT} s" if now - @began > LIMIT

          sleep @random.rand(0.3..2.0)
          blow if now - @began < @seconds * 0.6
        end
      end

      def blow
        if @random.rand < 0.25
          put_down(@redis)
          sleep @random.rand(0.0..3.0)
          redis
          @kills["Redis"] += 1
        else
          n = @random.rand(WORKERS)
          put_down(@workers[n])
          worker(n)
          @kills["worker"] += 1
        end
      end

      def ended?(jobs) = @workshop.db[:jobs].where(id: jobs, state: %w[queued running]).empty?

      def ended(jobs)
        until ended?(jobs)
          sleep 0.1
        end
      end

      # By one machine alone, for each frame once.
      def check
        expect_equal(
          "jobs that ended otherwise than well",
          @workshop.db[:jobs].where(id: @asked + [@strip]).exclude(state: "done").select_map(%i[id kind state error]),
          []
        )
        expect_equal(
          "numbers of prints", @workshop.db[:prints].where(shot_id: @id).order(:number).select_map(:number),
          (1..@prints).to_a
        )
        with_workshop do |alone|
          other = shelve(alone, @document)
          run_now(alone, other)
          pictures =
            (1..8).to_h do |frame|
              [
                frame,
                work(alone, alone.prints.take(other, frame, size: SIZE)).then do |row|
                  sum(alone.prints.path(other, JSON.parse(row[:result])["number"]))
                end
              ]
            end
          made = @workshop.db[:prints].where(shot_id: @id).select_map(%i[number frame])
          expect_equal(
            "prints that are not those of one machine",
            made.reject { |number, frame| sum(@workshop.prints.path(@id, number)) == pictures[frame] }, []
          )
          work(alone, alone.strips.start(other, axes.map { |axis| axis.transform_keys(&:to_s) })[:job_id])
          %w[frames views].each do |folder|
            expect_equal(
              "#{folder} that differ", files(@workshop, folder).to_a - files(alone, folder).to_a,
              files(alone, folder).to_a - files(@workshop, folder).to_a
            )
          end
        end
      end

      def expect_equal(what, found, wanted)
        @failures << "#{what}: #{found.inspect[0, 300]} instead of #{wanted.inspect[0, 300]}" unless found == wanted
      end

      def sum(path) = Digest::SHA256.file(path).hexdigest

      def files(workshop, folder) =
        Dir[File.join(workshop.home.path, folder, "*", "*.*")].to_h { |file| [File.basename(file), sum(file)] }
    end
  end
end
