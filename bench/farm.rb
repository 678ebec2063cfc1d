# frozen_string_literal: true

# What more machines cost and where they stop helping: measured here, and reckoned for 1 to 1,000 of them.
#   ruby bench/farm.rb [SECONDS]    how long one job takes on a machine; 0.5 otherwise
#
# Measured, with a server in a process of its own and a worker that has a folder of its own, over HTTP: what a job costs
# beside its work, what the server does for it, and how quickly files come and go. Reckoned from that: machines that ask
# one server which does one thing at a time, over a line of one gigabit a second.
require_relative "support"
require "socket"
require "tmpdir"

module Vumbral
  class Farm
    JOBS = 40
    LINE = 125e6
    COUNTS = [1, 2, 5, 10, 20, 50, 100, 200, 500, 1000].freeze
    # Jobs that each machine does when it is reckoned.
    EACH = 40

    def initialize(seconds) = @seconds = seconds

    def call
      Dir.mktmpdir do |home|
        @workshop = Studio::Workshop.new(home, redis: nil)
        serve do |address|
          costs = measured(address, home)
          puts
          reckoned(costs)
        end
      end
    end

    private

    def serve
      port = TCPServer.open("127.0.0.1", 0) { |server| server.addr[1] }
      @server =
        Process.spawn(
          File.join(ROOT, "bin", "vumbral"), "serve", "--home", @workshop.home.path, "--port", port.to_s,
          "--no-workers", out: File::NULL
        )
      wait(port)
      yield "http://127.0.0.1:#{port}"
    ensure
      Process.kill(:TERM, @server)
      Process.wait(@server)
    end

    def wait(port)
      Socket.tcp("127.0.0.1", port).close
    rescue SystemCallError
      sleep 0.1
      retry
    end

    # Seconds that the server has computed.
    def busy = File.read("/proc/#{@server}/stat")[/\).*/m].split.values_at(12, 13).sum(&:to_i) / 100.0

    def measured(address, home)
      document = small
      id = @workshop.shots.import(document.to_json)[:id]
      Studio::Worker.new(@workshop).run_one(@workshop.runs.start(id, "draft")[:job_id])
      link = Away::Link.new(address, machine: "0123456789ab")
      hand =
        Away::Hand.new(
          Away::Workshop.new(File.join(home, "away"), link),
          {id: "0123456789ab", name: "bench", cores: 2, memory: 4 << 30, speed: 1.0}
        )
      hand.greet
      # The same pictures, here and over the line.
      jobs = ->(count) { Array.new(count) { @workshop.prints.take(id, 6, size: [64, 36]) } }
      here = per_job { |count| jobs[count].each { |job| Studio::Worker.new(@workshop).run_one(job) } }
      away = per_job { |count| jobs[count] && count.times { hand.take } }
      own = server_time(hand, jobs)
      large = Random.new(1).bytes(8 << 20)
      @workshop.home.write(@workshop.home.within("meshes", "0123456789abcdef.mesh"), large)
      down = Bench.median(3) { link.fetch("meshes/0123456789abcdef.mesh", File.join(home, "fetched")) }
      told = {
        "one job here, s" => here, "one job over the line, s" => away, "overhead of a job, ms" => 1000 * (away - here),
        "of a job of 0.5 s, %" => 100 * (away - here) / 0.5, "server's own time for a job, ms" => 1000 * own,
        "an 8 MB file comes in, s" => down
      }
      told.each { |what, value| puts format("%-34s %10.4f", what, value) }
      {overhead: away - here, busy: own}
    end

    def small
      edits =
        [
          ["general", "last", 8], ["chamber", "size", [1.0, 1.4, 1.0]], ["chamber", "voxel", 0.07],
          ["chamber", "draft", 1.0], ["detail", "on", false]
        ].map { |node, dial, value| {"do" => "set", "node" => node, "dial" => dial, "value" => value} }
      Shot::Edits.apply(Studio::Starters.build("plume", "Bench"), edits)[0]
    end

    def per_job
      yield 4
      Array.new(3) { Bench.seconds { yield JOBS } / JOBS }.min
    end

    # All that its process computes, for a job.
    def server_time(hand, jobs)
      jobs[JOBS]
      before = busy
      JOBS.times { hand.take }
      (busy - before) / JOBS
    end

    # @param costs [Hash] :overhead and :busy, seconds a job
    def reckoned(costs)
      sizes = {"0.1 MB" => 1e5, "2 MB" => 2e6}
      puts "Jobs of #{@seconds} s, and what each sends and fetches in all; share of the machines' time that is work:"
      puts format("%10s %12s %12s %s", "machines", *sizes.keys.map { |name| name }, "what holds it up")
      COUNTS.each do |count|
        shares = sizes.values.map { |bytes| share(count, costs, bytes) }
        puts format("%10d %11.1f%% %11.1f%%  %s", count, *shares.map { |share| 100 * share }, held_up(count, costs))
      end
      puts format(
        "The server is full at %d machines; a line of 1 Gbit/s at %s.",
        (@seconds + costs[:overhead]) / costs[:busy],
        sizes.map { |name, bytes| "#{((@seconds + costs[:overhead]) * LINE / bytes).round} (#{name})" }.join(", ")
      )
    end

    # By events: each machine in turn asks the server, which does one thing at a time, then sends over the line, then
    # works.
    def share(count, costs, bytes)
      free_server = free_line = 0.0
      ready = Array.new(count) { |n| n * 1e-4 }
      left = count * EACH
      ended = 0.0
      until left.zero?
        n = ready.each_index.min_by { |at| ready[at] }
        served = [ready[n], free_server].max + costs[:busy]
        free_server = served
        sent = [served, free_line].max + bytes / LINE
        free_line = sent
        ready[n] = sent + [costs[:overhead] - costs[:busy], 0.0].max + @seconds
        ended = [ended, ready[n]].max
        left -= 1
      end
      EACH * @seconds / ended
    end

    def held_up(count, costs)
      (count * costs[:busy] > @seconds + costs[:overhead]) ? "the server" : ""
    end
  end
end

Vumbral::Farm.new((ARGV[0] || 0.5).to_f).call
