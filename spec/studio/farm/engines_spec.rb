# frozen_string_literal: true

module Vumbral
  RSpec.shared_examples "an engine" do
    let(:id) { shelve(@workshop) }

    # Asked for some moments ago.
    def claim(lanes = %w[long short], **how)
      @workshop.db[:jobs].update(created_at: Sequel[:created_at] - 1.0)
      jobs.claim(lanes, **how)
    end

    it "gives each job once, what is waited for first" do
      run, print, mesh = jobs.add("run", id, {}), jobs.add("print", id, {a: 1}), jobs.add("mesh", nil, {})
      expect(Array.new(4) { claim&.fetch(:id) }).to eq([mesh, print, run, nil])
      expect(jobs.fetch(print)).to include(
        state: "running", worker: Process.pid, machine: nil, attempts: 1, payload: "{\"a\":1}"
      )
    end

    it "gives to a machine elsewhere what it can do, and what it has the memory for" do
      jobs.add("mesh", nil, {})
      large, small = jobs.add("run", id, {}, memory: 2 << 30), jobs.add("print", id, {})
      little = helped(@workshop).merge(memory: 1 << 30)
      expect(Array.new(2) { claim(machine: little)&.fetch(:id) }).to eq([small, nil])
      expect(jobs.fetch(small)).to include(worker: nil, machine: little[:id])
      expect(claim(machine: helped(@workshop))[:id]).to eq(large)
    end

    it "leaves what somebody waits for to this machine first, and parts to all" do
      print, part = jobs.add("print", id, {}), jobs.add("cut", id, {}, of: [1, 0])
      machine = helped(@workshop)
      expect(Array.new(2) { jobs.claim(%w[short part], machine: machine)&.fetch(:id) }).to eq([part, nil])
      expect(@workshop.foreman.give(machine[:id], Studio::Farm::Version.own, %w[short])[:job][:id]).to eq(print)
    end

    it "lets go of the parts of what has failed" do
      whole = jobs.add("export", id, {})
      part = jobs.add("cut", id, {}, of: [whole, 0])
      gone = Process.spawn("true").tap { |pid| Process.wait(pid) }
      3.times { claim(%w[long], worker: gone) }
      claim(%w[long])
      expect([whole, part].map { |job| jobs.fetch(job)[:state] }).to eq(%w[failed cancelled])
    end

    it "has shots take turns, and what was put first before all" do
      other = shelve(@workshop, small_shot("Another puff"))
      ids = [id, id, other].map { |shot| jobs.add("export", shot, {}) }
      first = claim[:id]
      @workshop.queue.first(ids[1])
      expect([first, claim[:id], claim[:id]]).to eq([ids[0], ids[1], ids[2]])
    end

    it "keeps a claim that is renewed, and gives on one that is not" do
      job = jobs.add("print", id, {})
      claim(machine: helped(@workshop))
      allow(@workshop).to receive(:now).and_return(Time.now.to_f + 10)
      expect(jobs.renew(job)).to be(true)
      allow(@workshop).to receive(:now).and_return(Time.now.to_f + 20)
      expect(claim).to be_nil
      allow(@workshop).to receive(:now).and_return(Time.now.to_f + 40)
      expect(claim).to include(id: job, machine: nil, attempts: 2, resumed: true)
    end

    it "tells how far a job is, and what it came to" do
      job = jobs.add("print", id, {})
      claim
      jobs.progress(job, 3, 8, "exposing")
      expect(jobs.show(jobs.fetch(job))).to include(state: "running", done: 3, total: 8, note: "exposing")
      jobs.finish(job, {number: 4})
      expect(jobs.show(jobs.fetch(job))).to include(state: "done", result: {"number" => 4})
      other = jobs.add("print", id, {})
      claim
      jobs.fail(other, "No.", "nope")
      expect(jobs.show(jobs.fetch(other))).to include(state: "failed", error: "No.", code: "nope")
    end

    it "stops what waits at once, what goes on when it looks, and all parts with it" do
      waiting, going = jobs.add("export", id, {}), jobs.add("strip", id, {})
      claim(nil, only: going)
      parts = Array.new(2) { |n| jobs.add("cut", id, {}, of: [going, n]) }
      claim(nil, only: parts[0])
      [waiting, going].each { |job| jobs.cancel(job) }
      expect([waiting, going, *parts].map { |job| jobs.fetch(job)[:state] }).to eq(
        %w[cancelled running running cancelled]
      )
      expect([going, parts[0]].map { |job| jobs.renew(job) }).to eq([false, false])
      expect(jobs.active.map { |job| job[:id] }).to eq([going])
    end

    it "hands back what is made to wait, and holds it until it is let go on" do
      job = jobs.add("export", id, {})
      claim
      @workshop.queue.hold(job)
      jobs.release(job)
      expect([claim, jobs.held?(job)]).to eq([nil, true])
      @workshop.queue.go_on(job)
      expect(claim).to include(id: job, attempts: 1)
    end

    it "gives up on a job that takes every worker with it" do
      job = jobs.add("run", id, {})
      gone = Process.spawn("true").tap { |pid| Process.wait(pid) }
      3.times { claim(worker: gone) }
      expect([claim, jobs.fetch(job)[:code]]).to eq([nil, "worker_lost"])
    end

    it "is more patient with machines elsewhere, which come and go" do
      job = jobs.add("print", id, {})
      machine = helped(@workshop)
      8.times do |n|
        expect(claim(machine: machine)[:attempts]).to eq(n + 1)
        allow(@workshop).to receive(:now).and_return(Time.now.to_f + 20 * (n + 1))
      end
      expect([claim(machine: machine), jobs.fetch(job).values_at(:code, :error)]).to match(
        [nil, ["worker_lost", /stopped 8 times/]]
      )
    end
  end

  RSpec.describe Studio::Jobs do
    around { |example| with_workshop { |workshop| (@workshop = workshop) && example.run } }

    def jobs = @workshop.jobs

    it_behaves_like "an engine"
  end

  RSpec.describe Studio::Farm::TicketJobs do
    around do |example|
      Dir.mktmpdir { |home| (@workshop = Studio::Workshop.new(home, redis: FarmHelp.redis)) && example.run }
    end

    def jobs = @workshop.jobs

    def tickets = @workshop.tickets

    def sizes = Studio::Farm::Tickets::LANES.map { |lane| tickets.size(lane) }

    it_behaves_like "an engine"

    it "calls once for each job that can be done elsewhere, and takes the call back where it is done here" do
      %w[print run mesh cut cut].each { |kind| jobs.add(kind, nil, {}) }
      expect(sizes).to eq([1, 2, 1])
      3.times { jobs.claim(%w[short part]) }
      expect(sizes).to eq([0, 1, 1])
    end

    it "does not call before a job can be seen" do
      @workshop.db.transaction do
        jobs.add("print", nil, {})
        expect(sizes[0]).to eq(0)
      end
      expect(sizes[0]).to eq(1)
    end

    it "calls anew where Redis has forgotten, and no more often than there is work" do
      3.times { jobs.add("print", nil, {}) }
      3.times { tickets.take("short") }
      jobs.instance_variable_set(:@counted, nil)
      2.times { jobs.revive }
      expect(sizes).to eq([3, 0, 0])
    end

    it "keeps apart what two servers have on one Redis" do
      jobs.add("print", nil, {})
      Dir.mktmpdir { |home| expect(Studio::Workshop.new(home, redis: FarmHelp.redis).tickets.size("short")).to eq(0) }
    end

    it "works without Redis as long as that is gone, and says so with what waits" do
      port = FarmHelp.free_port
      Dir.mktmpdir do |home|
        workshop = Studio::Workshop.new(home, redis: "redis://:secret-word@127.0.0.1:#{port}/0")
        job = workshop.jobs.add("print", nil, {})
        expect(workshop.jobs.show(workshop.jobs.fetch(job))[:note]).to eq(
          "Redis at redis://127.0.0.1:#{port}/0 cannot be reached; work goes on here, and elsewhere as soon as it " \
            "is back."
        )
        expect(workshop.jobs.claim(%w[short])[:id]).to eq(job)
        expect(refusal { workshop.tickets.check }[0]).to eq("no_redis")
      end
    end

    it "says what is wrong with a password, and with an address" do
      wrong = FarmHelp.redis.sub("open-sesame-of-ours", "closed")
      expect(refusal { Studio::Farm::Tickets.new(wrong, "a").check }).to match(
        ["no_redis", /does not take the password; give the right one/]
      )
      expect(refusal { Studio::Farm::Tickets.new("http://127.0.0.1:80", "a").check }).to match(
        ["bad_value", /no address of a Redis/]
      )
    end
  end
end
