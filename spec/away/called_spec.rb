# frozen_string_literal: true

module Vumbral
  # A worker that Redis calls.
  RSpec.describe Away::Called do
    around do |example|
      Dir.mktmpdir do |home|
        @workshop = Studio::Workshop.new(home, redis: FarmHelp.redis)
        Dir.mktmpdir { |folder| (@folder = folder) && example.run }
      end
    end

    after { Studio::Farm::Ticket.hand = nil }

    # The real program on a folder of its own.
    def program(address)
      log = File.join(@folder, "log")
      pid =
        Process.spawn(
          File.join(ROOT, "bin", "vumbral"), "worker", "--server", address, "--redis", FarmHelp.redis, "--cache",
          File.join(@folder, "cache"), "--name", "Bellows", %i[out err] => log
        )
      Timeout.timeout(60) { sleep 0.1 until File.read(log).include?("Bellows works for") }
      yield
    ensure
      Process.kill(:TERM, pid)
      Process.wait(pid)
    end

    def retried = Studio::Farm::Tickets.config(FarmHelp.redis).redis { |redis| redis.call("ZCARD", "retry") }

    it "does the work that it is called to; a call that finds nobody at the other end is tried again by Sidekiq" do
      id = shelve(@workshop)
      server = Thread.new { serving(@workshop) { |address| (@address = address) && sleep } }
      server.report_on_exception = false
      sleep 0.05 until @address
      program(@address) do
        job = @workshop.runs.start(id, "draft")[:job_id]
        Timeout.timeout(60) { sleep 0.05 until @workshop.jobs.fetch(job)[:state] == "done" }
        expect(@workshop.machines.fetch(@workshop.jobs.fetch(job)[:machine])).to include(name: "Bellows", done: 1)
        server.kill.join
        @workshop.jobs.add("print", nil, {})
        Timeout.timeout(90) { sleep 0.1 until retried.positive? }
      end
      Studio::Farm::Tickets.config(FarmHelp.redis).redis { |redis| redis.call("DEL", "retry") }
    end

    it "makes nothing of a call that it does not understand, and keeps what was refused for good" do
      far = instance_double(Away::Hand, take: true, refused: nil)
      Studio::Farm::Ticket.hand = far
      Studio::Farm::Ticket.new.perform("older", {"of" => "another kind"}, 3)
      expect(far).to have_received(:take).with(%w[short part long])
      error = Refused.new("No.", code: "other_version")
      allow(far).to receive(:take).and_raise(error)
      Studio::Farm::Ticket.new.perform
      expect(far).to have_received(:refused).with(error)
    end

    it "says at once that Redis does not take the password" do
      wrong = FarmHelp.redis.sub("open-sesame-of-ours", "closed")
      expect { described_class.new(wrong, "a", %w[short], nil) {}.call { false } }.to raise_error(
        Refused, /does not take the password/
      )
    end
  end
end
