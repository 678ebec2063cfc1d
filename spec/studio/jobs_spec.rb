# frozen_string_literal: true

module Vumbral
  RSpec.describe Studio::Jobs do
    around { |example| with_workshop { |workshop| (@workshop = workshop) && example.run } }

    let(:jobs) { @workshop.jobs }

    # A process that is gone.
    let(:nobody) { Process.spawn("true").tap { |pid| Process.wait(pid) } }

    it "gives each job to one worker, prints first" do
      run, print = jobs.add("run", "a", {}), jobs.add("print", "a", {})
      expect(jobs.claim(%w[long short])[:id]).to eq(print)
      expect(jobs.claim(%w[short])).to be_nil
      expect(jobs.claim(%w[long])[:id]).to eq(run)
      expect(jobs.claim(%w[long short])).to be_nil
    end

    it "never gives one job twice, however many ask" do
      40.times { jobs.add("print", "a", {}) }
      claimed =
        4
          .times
          .map do
            Thread.new do
              Studio::Workshop
                .new(@workshop.home.path)
                .then { |w| 15.times.filter_map { w.jobs.claim(%w[short])&.fetch(:id) } }
            end
          end
          .flat_map(&:value)
      expect(claimed.size).to eq(40)
      expect(claimed.uniq.size).to eq(40)
    end

    it "takes a job up again whose worker is gone, and gives up on one that takes every worker with it" do
      id = jobs.add("run", "a", {})
      Studio::Jobs::MOST_ATTEMPTS.times { expect(jobs.claim(%w[long], worker: nobody)[:id]).to eq(id) }
      expect(jobs.claim(%w[long])).to be_nil
      expect(jobs.fetch(id)).to include(state: "failed", code: "worker_lost",
        error: /stopped 3 times .* finished frames are kept/)
    end

    it "takes a job up again whose worker has stopped renewing its claim" do
      id = jobs.add("run", "a", {})
      jobs.claim(%w[long])
      expect(jobs.claim(%w[long])).to be_nil
      allow(@workshop).to receive(:now).and_return(Time.now.to_f + Studio::Jobs::LEASE + 1)
      expect(jobs.claim(%w[long])[:id]).to eq(id)
    end

    it "cancels what waits at once, and tells what runs" do
      waiting, running = jobs.add("run", "a", {}), jobs.add("print", "a", {})
      jobs.claim(%w[short])
      jobs.cancel_of("a")
      expect(jobs.fetch(waiting)[:state]).to eq("cancelled")
      expect(jobs.cancelled?(running)).to be(true)
      expect(jobs.renew(running)).to be(false)
      jobs.finish(running)
      expect(jobs.cancel(running)[:state]).to eq("done")
    end

    it "forecasts the time left from the pace so far" do
      id = jobs.add("run", "a", {})
      jobs.claim(%w[long])
      began = jobs.fetch(id)[:started_at]
      jobs.progress(id, 3, 12, "0.5 s a frame")
      allow(@workshop).to receive(:now).and_return(began + 6.0)
      expect(jobs.show(jobs.fetch(id))).to include(done: 3, total: 12, left: 18.0, note: "0.5 s a frame")
    end

    it "forecasts from where it was taken up again, not from when it first began" do
      id = jobs.add("run", "a", {})
      jobs.claim(%w[long])
      jobs.progress(id, 10, 20)
      jobs.release(id)
      allow(@workshop).to receive(:now).and_return(Time.now.to_f + 5000)
      jobs.claim(%w[long])
      expect(jobs.show(jobs.fetch(id))[:left]).to be_nil
      began = jobs.fetch(id)[:started_at]
      jobs.progress(id, 12, 20)
      allow(@workshop).to receive(:now).and_return(began + 4.0)
      expect(jobs.show(jobs.fetch(id))).to include(left: 16.0, seconds: 4.0, resumed: true)
    end

    it "tells every step as an event, in order, to those who ask since then" do
      before = @workshop.events.last
      id = jobs.add("run", "a", {})
      jobs.claim(%w[long])
      jobs.fail(id, "No.", "nope")
      told = @workshop.events.since(before)
      expect(told.map { |event| event[:data]["state"] }).to eq(%w[queued running failed])
      expect(told.last).to include(kind: "job", shot: "a")
      expect(@workshop.events.since(told.last[:id])).to eq([])
    end
  end

  RSpec.describe Studio::Worker do
    around { |example| with_workshop { |workshop| (@workshop = workshop) && example.run } }

    it "turns whatever goes wrong into a failed job with one sentence, and goes on" do
      id = shelve(@workshop)
      {NoMemoryError => "no_memory", Errno::ENOSPC => "disk_full", RuntimeError => "internal"}.each do |error, code|
        allow_any_instance_of(Gas::Stage).to receive(:advance).and_raise(error)
        expect { @row = work(@workshop, @workshop.runs.start(id, "draft")[:job_id]) }.to output(
          (code == "internal") ? /RuntimeError/ : ""
        ).to_stderr
        expect(@row).to include(state: "failed", code: code)
        expect(@row[:error]).to match(/\A[A-Z].*\.\z/)
      end
    end

    it "stops when it is told to, and when its parent is gone" do
      worker = described_class.new(@workshop)
      thread = Thread.new { worker.run }
      worker.stop
      expect(thread.join(5)).not_to be_nil
      described_class.new(@workshop, parent: 1 << 22).run
    end
  end
end
