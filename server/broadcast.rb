# frozen_string_literal: true

require "json"

module Vumbral
  module Server
    # Passes what workers and other browsers do on to everyone who listens.
    class Broadcast
      PAUSE = 0.04
      HEARTBEAT = 10.0

      # One listener's stream, as Rack reads it.
      class Stream
        def initialize(broadcast, backlog)
          @broadcast = broadcast
          @queue = Queue.new
          backlog.each { |event| @queue << event }
        end

        attr_reader :queue

        def each
          yield "retry: 1000\n\n"
          loop do
            event = @queue.pop
            break if event == :end

            yield((event == :beat) ? ": alive\n\n" : "id: #{event[:id]}\nevent: #{event[:kind]}\ndata: #{JSON.generate(event[:data].merge("shot" => event[:shot]))}\n\n")
          end
        ensure
          close
        end

        def close = @broadcast.leave(self)
      end

      def initialize(workshop)
        @workshop = workshop
        @streams = []
        @lock = Mutex.new
      end

      # @param since [Integer, nil] the last event already seen
      # @return [Stream]
      def listen(since)
        start
        stream = Stream.new(self, since ? @workshop.events.since(since) : [])
        @lock.synchronize { @streams << stream }
        stream
      end

      def leave(stream) = @lock.synchronize { @streams.delete(stream) }

      def stop
        @lock.synchronize { @streams.dup }.each { |stream| stream.queue << :end }
      end

      private

      def start
        @lock.synchronize do
          @last ||= @workshop.events.last
          @watcher = Thread.new { watch } unless @watcher&.alive?
        end
      end

      def watch
        beat = @workshop.now
        loop do
          sleep PAUSE
          streams = @lock.synchronize { @streams.dup }
          events = @workshop.events.since(@last)
          @last = events.last[:id] if events.any?
          events.each { |event| streams.each { |stream| stream.queue << event } }
          next if @workshop.now - beat < HEARTBEAT

          beat = @workshop.now
          streams.each { |stream| stream.queue << :beat }
        rescue Studio::Database::Error
          sleep 0.2
        end
      end
    end
  end
end
