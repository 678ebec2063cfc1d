# frozen_string_literal: true

require "json"
require "socket"

module Vumbral
  module Server
    # Passes what workers and other browsers do on to everyone who listens. One thread serves all of
    # them on sockets taken over from the web server, so that a listener costs no request.
    class Broadcast
      PAUSE = 0.008
      HEARTBEAT = 10.0
      # How often it is looked who has left, and whether the disk is full.
      CHECK = 1.0
      # Who does not read is let go when so much waits for him.
      MOST_WAITING = 2 * 1024 * 1024
      HEAD = "HTTP/1.1 200 OK\r\ncontent-type: text/event-stream\r\ncache-control: no-store\r\nx-accel-buffering: " \
        "no\r\n" \
        "connection: close\r\n\r\nretry: 1000\n\n"

      # One who listens: a socket, and what could not be written to it yet.
      class Listener
        def initialize(socket)
          @socket = socket
          @waiting = +""
        end

        # @return [Boolean] whether it is still there
        def tell(text)
          @waiting << text
          flush
        end

        def flush
          until @waiting.empty?
            written = @socket.write_nonblock(@waiting, exception: false)
            return @waiting.bytesize <= MOST_WAITING if written == :wait_writable

            @waiting = @waiting.byteslice(written..)
          end
          true
        rescue SystemCallError, IOError
          false
        end

        # Whether the other side has not gone away.
        def there?
          @socket.read_nonblock(512, exception: false) == :wait_readable
        rescue SystemCallError, IOError
          false
        end

        def close
          @socket.close
        rescue SystemCallError, IOError
          nil
        end
      end

      def initialize(workshop)
        @workshop = workshop
        @changes = Studio::Database::Changes.new(workshop.home.database)
        @listeners = []
        @arrivals = Queue.new
        @lock = Mutex.new
      end

      # Takes a socket over for good. Nothing is written to it here: only the one thread writes.
      # @param since [Integer, nil] the last event already seen
      def listen(socket, since)
        start
        @arrivals << [socket, since || @last]
      rescue
        socket.close
        raise
      end

      def count = @listeners.size + @arrivals.size

      # The watcher is not killed: torn out of SQLite, it would leave its connection locked.
      def stop
        @stopped = true
        @watcher&.join
        leave(@listeners)
        @arrivals.shift[0].close until @arrivals.empty?
      end

      private

      def leave(gone)
        @listeners -= gone
        gone.each(&:close)
      end

      def start
        @lock.synchronize do
          @last ||= @workshop.events.last
          @watcher = Thread.new { watch } unless @watcher&.alive?
        end
      end

      def watch
        beat = checked = @workshop.now
        until @stopped
          sleep PAUSE
          now = @workshop.now
          @due ||= @changes.any?
          text = @due ? news : +""
          @due = false
          if now - checked > CHECK
            checked = now
            text += trouble(now)
            leave(@listeners.reject(&:there?))
          end
          text, beat = "#{text}: alive\n\n", now if now - beat > HEARTBEAT
          leave(@listeners.reject { |listener| text.empty? ? listener.flush : listener.tell(text) })
          welcome
        end
      rescue Studio::Database::Error
        sleep 0.2
        retry
      end

      # Those who came since the last round hear what they missed.
      def welcome
        until @arrivals.empty?
          socket, since = arrival = @arrivals.shift
          begin
            greeting = HEAD + missed(since) + (@trouble ? trouble_words : "")
          rescue Studio::Database::Error
            @arrivals << arrival
            raise
          end
          socket.setsockopt(Socket::IPPROTO_TCP, Socket::TCP_NODELAY, 1) if socket.is_a?(TCPSocket)
          listener = Listener.new(socket)
          @listeners << listener
          leave([listener]) unless listener.tell(greeting)
        end
      end

      # All after that, up to what everyone has been told.
      def missed(since)
        text = +""
        while since < @last
          events = @workshop.events.since(since).take_while { |event| event[:id] <= @last }
          break if events.empty?

          events.each { |event| text << words(event) }
          since = events.last[:id]
        end
        text
      end

      # What has happened since, as it is sent.
      def news
        return +"" unless @workshop.events.last > @last

        events = @workshop.events.since(@last)
        @last = events.last[:id] if events.any?
        events.map { |event| words(event) }.join
      end

      # A full disk is told without writing it down.
      def trouble(now)
        before = @trouble
        @trouble = @workshop.home.trouble(now)
        (before == @trouble) ? "" : trouble_words
      end

      def trouble_words = "event: trouble\ndata: #{JSON.generate(text: @trouble, shot: nil)}\n\n"

      def words(event)
        "id: #{event[:id]}\nevent: #{event[:kind]}\ndata: " \
          "#{JSON.generate(event[:data].merge("shot" => event[:shot]))}\n\n"
      end
    end
  end
end
