# frozen_string_literal: true

module Vumbral
  module Torture
    # Two editors work on one shot at once, each naming the step that its edit was made on. What was answered
    # with 200 is there, what clashed is answered with both values, and steps are counted without gaps.
    class Editors
      WINDOWS = %w[window-a window-b].freeze

      def initialize(home, random, seconds)
        @server = Server.new(home)
        @random = random
        @seconds = seconds
        @kept = @clashes = 0
        @failures = []
        @lock = Mutex.new
      end

      def words = "#{@kept} edits of two windows kept, #{@clashes} clashes told with both values"

      # @return [Array<String>]
      def call
        @server.start
        @id = @server.ask("post", "/shots", {name: "Two", starter: "plume"})[1]["id"]
        limit = Process.clock_gettime(Process::CLOCK_MONOTONIC) + @seconds * 0.8
        seeds = WINDOWS.map { @random.rand(1 << 30) }
        WINDOWS.zip(seeds).map { |window, seed| Thread.new { edit(window, Random.new(seed), limit) } }.each(&:join)
        check
        @failures
      ensure
        @server.kill
      end

      private

      def edit(window, random, limit)
        head = 1
        while Process.clock_gettime(Process::CLOCK_MONOTONIC) < limit
          head = @server.ask("get", "/shots/#{@id}")[1]["head"] if random.rand < 0.4
          value = random.rand(1.0..30.0).round(3)
          dial = [%w[look thickness], %w[source-1 smoke], %w[chamber lift]].sample(random: random)
          edits = [{do: "set", node: dial[0], dial: dial[1], value: (dial[1] == "lift") ? value / 10 : value}]
          status, answer = @server.ask("post", "/shots/#{@id}/edits", {edits: edits, head: head},
            {"x-vumbral-window" => window})
          head = note(status, answer) || head
        end
      end

      # @return [Integer, nil] the head to go on from
      def note(status, answer)
        @lock.synchronize do
          case status
          when 200 then (@kept += 1) && answer["head"]
          when 409
            @clashes += 1
            both =
              answer["conflicts"].to_a.all? do |clash|
                clash["yours"] && clash["theirs"] && clash["yours"] != clash["theirs"]
              end
            @failures << "a clash without both values: #{answer}" unless both && answer["conflicts"].any?
            answer["head"]
          else
            @failures << "#{status}: #{answer["error"]}"
            nil
          end
        end
      end

      def check
        head = @server.ask("get", "/shots/#{@id}")[1]["head"]
        @failures << "#{@kept} edits were kept, but the shot stands at step #{head}" unless head == @kept + 1
      end
    end
  end
end
