# frozen_string_literal: true

module Vumbral
  # What people do to work, and the room that it takes.
  RSpec.describe Studio::Queue do
    around { |example| with_workshop { |workshop| (@workshop = workshop) && example.run } }

    def queue = @workshop.queue

    def add(kind = "export", shot = nil, **how) = @workshop.jobs.add(kind, shot, {}, **how)

    def order = queue.list.select { |job| job[:state] == "queued" }.map { |job| job[:id] }

    it "does first what is put first, and leaves out what is held back" do
      one, two, three = Array.new(3) { add }
      queue.first(three)
      queue.hold(one)
      expect(order).to eq([three, two, one])
      expect(Array.new(3) { @workshop.jobs.claim(%w[long])&.fetch(:id) }).to eq([three, two, nil])
      queue.go_on(one)
      expect(@workshop.jobs.claim(%w[long])[:id]).to eq(one)
      queue.first(background = add(background: true))
      expect(@workshop.jobs.fetch(background)).to include(background: false, rank: 2)
    end

    it "lets shots take turns" do
      shots = %w[Kiln Vase].map { |name| shelve(@workshop, small_shot(name)) }
      [0, 0, 0, 1].each { |n| add("export", shots[n]) }
      taken =
        Array.new(4) do
          @workshop
            .jobs
            .claim(%w[long])
            .tap { |job| @workshop.db[:jobs].where(id: job[:id]).update(started_at: @workshop.now + job[:id]) }[
            :shot_id
          ]
        end
      expect(taken).to eq([shots[0], shots[1], shots[0], shots[0]])
    end

    it "says how far it is a few times a second at most, and of the last of it in any case" do
      add
      task = Studio::Worker::Task.new(@workshop, @workshop.jobs.claim(%w[long]))
      allow(@workshop.jobs).to receive(:progress).and_call_original
      (1..40).each { |done| task.progress(done, 40) }
      expect(@workshop.jobs).to have_received(:progress).at_least(:twice).at_most(20).times
      expect(@workshop.jobs.fetch(task.id)).to include(done: 40, total: 40)
    end

    it "holds back what goes on at the next good place, and keeps how far it was" do
      id = add
      task = Studio::Worker::Task.new(@workshop, @workshop.jobs.claim(%w[long]))
      task.progress(3, 9)
      queue.hold(id)
      expect { task.progress(4, 9) }.to raise_error(Studio::Worker::Task::GivenBack)
      @workshop.jobs.release(id)
      expect(@workshop.jobs.show(@workshop.jobs.fetch(id))).to include(
        state: "queued", held: true, done: 4, resumed: true
      )
      expect(@workshop.jobs.claim(%w[long])).to be_nil
    end

    it "does once more what failed or was stopped, from what it had finished, and nothing else" do
      id = shelve(@workshop, small_shot)
      run = @workshop.runs.start(id, "draft")
      @workshop.jobs.cancel(run[:job_id])
      queue.again(run[:job_id])
      expect(work(@workshop, run[:job_id])).to include(state: "done")
      expect(refusal { queue.again(run[:job_id]) }[1]).to match(/did not fail, so there is nothing to do again/)
      expect(refusal { queue.hold(run[:job_id]) }[1]).to match(/has ended/)
      expect(refusal { queue.first(9999) }[1]).to match(/no job 9999/)
      expect(queue.list.map { |job| job.slice(:kind, :name, :state) }).to include(
        kind: "run", name: @workshop.shots.fetch(id)[:name], state: "done"
      )
    end

    describe Studio::Room do
      def room = @workshop.room

      # A shot that was run as it once stood, and as it stands.
      def run_twice
        id = shelve(@workshop, small_shot(edits: [set("general", :last, 3)]))
        run_now(@workshop, id)
        @workshop.shots.edit(id, [set("source-1", :smoke, 9.0)])
        run_now(@workshop, id)
        id
      end

      it "tells what takes room, and gives back what no shot needs as it stands" do
        id = run_twice
        found = room.of
        frames = found[:parts].find { |part| part[:name] == "frames" }
        expect(frames[:bytes]).to be > found[:stale][:bytes]
        expect(found[:stale]).to match(frames: be >= 3, bytes: be > 0)
        expect(found[:free]).to be > 1 << 20
        expect(room.clear("stale")).to eq(found[:stale][:bytes])
        expect(room.of[:stale]).to eq(frames: 0, bytes: 0)
        expect(@workshop.runs.state(id, "draft")[:rows].map { |row| row[:state] }.uniq).to eq(["fresh"])
        # What was undone is run again.
        @workshop.shots.undo(id, by: nil, others: true)
        expect(@workshop.runs.state(id, "draft")[:rows].map { |row| row[:state] }.uniq).not_to eq(["fresh"])
      end

      it "keeps frames within a limit, the oldest first that no shot needs, and never those that it does" do
        id = run_twice
        stub_const("Vumbral::Studio::Room::LEAST", 1)
        whole = room.of[:parts].find { |part| part[:name] == "frames" }[:bytes]
        room.limit = whole - 1
        given = room.keep_within
        expect(given).to be_between(1, whole - 1)
        room.limit = 1
        room.keep_within
        expect(room.of[:stale][:frames]).to eq(0)
        expect(@workshop.runs.state(id, "draft")[:rows].map { |row| row[:state] }.uniq).to eq(["fresh"])
        room.limit = nil
        expect([room.limit, room.keep_within]).to eq([nil, 0])
      end

      it "keeps frames that work which waits was asked for" do
        id = run_twice
        @workshop.shots.undo(id, by: nil, others: true)
        job = @workshop.exports.start(id, "vdb", frames: 1..3)
        @workshop.shots.redo(id)
        room.clear("stale")
        expect(work(@workshop, job)).to include(state: "done")
      end

      it "throws away nothing that cannot be made again, and no limit that is of no use" do
        expect(refusal { room.clear("prints") }[1]).to match(/Prints cannot be made again/)
        expect(refusal { room.clear("..") }[1]).to match(/cannot be made again/)
        expect(refusal { room.limit = 1000 }[1]).to match(/need at least 256 MB/)
      end
    end
  end
end
