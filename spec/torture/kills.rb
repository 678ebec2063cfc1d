# frozen_string_literal: true

module Vumbral
  module Torture
    # Kills the server, its workers, or one of them while runs, prints and edits go on. Nothing that was
    # answered may be missing afterwards, and runs must come to their end by themselves.
    class Kills
      DIALS = {"smoke" => 0.5..9.0, "temperature" => 300.0..900.0, "breakup" => 0.0..1.0}.freeze

      def initialize(home, random, seconds)
        @server = Server.new(home)
        @random = random
        @seconds = seconds
        @kills = @edits = @prints = 0
        @failures = []
        @known = {}
      end

      def words = "#{@kills} kills, #{@edits} edits, #{@prints} prints; every edit kept, every run ended"

      # @return [Array<String>] what went wrong
      def call
        @server.start
        make
        limit = now + @seconds * 0.8
        strike while now < limit
        settle
        @failures
      ensure
        @server.kill
      end

      private

      def now = Process.clock_gettime(Process::CLOCK_MONOTONIC)

      def make
        _, shot = @server.ask("post", "/shots", {name: "Torture", starter: "plume"})
        @id = shot["id"]
        edit("general", "last", 24)
        edit("chamber", "voxel", 0.06)
      end

      def edit(node, dial, value)
        status, answer = @server.ask("post", "/shots/#{@id}/edits",
          {edits: [{do: "set", node: node, dial: dial, value: value}], follow: true})
        return unless status == 200

        @edits += 1
        @known[[node, dial]] = value
        @head = answer["head"]
      end

      # Something goes on, then somebody pulls the plug.
      def strike
        @server.ask("post", "/shots/#{@id}/runs", {quality: "draft"})
        killer = Thread.new(@random.rand(0.05..1.5), @random.rand) { |pause, chance| sleep(pause) && blow(chance) }
        killer.report_on_exception = false
        busy until killer.join(0.01)
        @kills += 1
        check
      end

      def blow(chance)
        return @server.wound(@random) if chance < 0.4

        @server.kill(workers: chance < 0.8)
        @server.start
      end

      def busy
        dial, range = DIALS.to_a.sample(random: @random)
        edit("source-1", dial, @random.rand(range).round(3))
        sleep @random.rand(0.0..0.4)
        @prints += 1 if @server.ask("post", "/shots/#{@id}/prints", {frame: 1, size: [64, 36]})[0] == 202
      rescue SystemCallError, IOError, Net::ReadTimeout
        # An edit whose answer never came may be there or not.
        @known.delete(["source-1", dial])
        sleep 0.02
      end

      def check
        status, shot = @server.ask("get", "/shots/#{@id}")
        return @failures << "the shot does not open (#{status})" unless status == 200

        nodes = shot["document"]["nodes"].to_h { |node| [node["id"], node["dials"]] }
        @known.each do |(node, dial), value|
          is = nodes.dig(node, dial)
          @failures << "#{node}.#{dial} is #{is}, not #{value}" if is && (is - value).abs > 1e-9
        end
      rescue SystemCallError, IOError
        retry
      end

      # Afterwards the draft comes to its end, and file and row agree.
      def settle
        @server.ask("post", "/shots/#{@id}/runs", {quality: "draft"})
        limit = now + 60
        rows = []
        until now > limit
          rows = @server.ask("get", "/shots/#{@id}/frames")[1]["rows"].to_a
          break if rows.any? && rows.all? { |row| row["state"] == "fresh" }

          sleep 0.2
        end
        @failures << "the last run did not end" unless rows.any? && rows.all? { |row| row["state"] == "fresh" }
        unless Studio::Workshop.new(@server.home).frames.reconcile == {found: 0, gone: 0}
          @failures << "files and rows disagree"
        end
      end
    end
  end
end
