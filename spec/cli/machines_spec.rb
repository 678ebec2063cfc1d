# frozen_string_literal: true

module Vumbral
  # Other machines on the command line, in this process.
  RSpec.describe CLI::Away do
    include CommandLine

    around { |example| Dir.mktmpdir { |dir| (@dir = dir) && example.run } }

    let(:home) { File.join(@dir, "home") }

    let(:workshop) { Studio::Workshop.new(home) }

    it "lists machines, and pauses them, has them go on and lets them go" do
      expect(run("machines")[0]).to eq("No other machine works for this data folder.\n")
      id = helped(workshop)[:id]
      expect(run("machines")[0].lines.map { |line| line[/this machine|Anvil/] }).to eq(["this machine", "Anvil"])
      expect(JSON.parse(run("machines", "--pause", id, "--json")[0])[1]).to include(
        "name" => "Anvil", "state" => "paused"
      )
      expect(JSON.parse(run("machines", "--go-on", id, "--twice", "0.1", "--json")[0])[1]).to include(
        "state" => "working"
      )
      expect(Studio::Workshop.new(home).foreman.share_twice).to eq(0.1)
      expect(run("machines", "--let-go", id)[0]).to match(/No other machine/)
      expect(run("machines", "--pause", "nobody")[1, 2]).to match([/was let go; start its worker again/, 1])
    end

    it "works for a server as a machine with a name, cores and memory of its own" do
      allow(Studio::Farm::Gauge).to receive(:of).and_return(1.5)
      allow(Signal).to receive(:trap)
      cores = ENV["OMP_NUM_THREADS"]
      told = nil
      serving(workshop) do |address|
        allow_any_instance_of(Away::Hand).to receive(:run_alone) { told = workshop.machines.list[1] }
        expect(
          run(
            "worker", "--server", address, "--name", "Bellows", "--cores", "1", "--memory", "2", "--cache",
            File.join(@dir, "cache")
          )[
            1
          ]
        ).to include("Bellows works for #{address}.")
      end
      expect(told).to include(name: "Bellows", cores: 1, memory: 2_000_000_000, speed: 1.5)
    ensure
      ENV["OMP_NUM_THREADS"] = cores
    end

    it "says in a sentence why it cannot work" do
      allow(Studio::Farm::Gauge).to receive(:of).and_return(1.5)
      stub_const("Vumbral::Away::Link::AGAIN", [0.01])
      cache = File.join(@dir, "cache")
      expect(run("worker", "--server", "http://127.0.0.1:#{FarmHelp.free_port}", "--cache", cache)[1, 2]).to match(
        [/\AThe server at .* cannot be reached/, 1]
      )
      expect(run("worker", "--server", "nonsense", "--cache", cache)[1, 2]).to match([/is no address of a server/, 1])
      serving(workshop, token: "a" * 20) do |address|
        expect(run("worker", "--server", address, "--token", "wrong-one", "--cache", cache)[1, 2]).to match(
          [/A token is needed/, 1]
        )
      end
      expect(run("serve", "--token", "short")[1, 2]).to eq(["A token has at least 16 characters.\n", 1])
      expect(run("serve", "--redis", "redis://127.0.0.1:#{FarmHelp.free_port}/0")[1, 2]).to match(
        [/\ARedis at redis:.* cannot be reached/, 1]
      )
    end
  end
end
