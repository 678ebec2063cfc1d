# frozen_string_literal: true

require "etc"
require "securerandom"
require "socket"

module Vumbral
  module CLI
    # A worker for a server elsewhere, from what the command line says.
    class Away
      # @param options [Hash] of `vumbral worker`
      def initialize(options)
        @options = options
        ENV["OMP_NUM_THREADS"] = options[:cores].to_i.to_s if options[:cores]
        @folder = File.expand_path(options[:cache] || File.join(ROOT, "var", "away"))
      end

      # Works until it is told to stop.
      # @raise [Refused] where it cannot begin
      def call
        @link =
          Vumbral::Away::Link.new(
            @options[:server], machine: id, token: @options[:token],
            bandwidth: @options[:bandwidth] && @options[:bandwidth] * 1e6
          )
        workshop = Vumbral::Away::Workshop.new(@folder, @link, room: (@options[:room] * (1 << 30)).to_i)
        @hand = Vumbral::Away::Hand.new(workshop, facts(workshop), lanes: lanes)
        home = @hand.greet.fetch("home")
        say("#{name} works for #{@options[:server]}.")
        %w[INT TERM].each { |signal| Signal.trap(signal) { stop } }
        @options[:redis] ? called(home) : asking
      rescue Vumbral::Away::Link::Lost => error
        raise Refused.new(error.message, code: "no_server")
      ensure
        @link&.close
      end

      private

      def stop
        exit!(0) if @stopping
        @stopping = true
        @hand.stop
      end

      def lanes =
        @options[:lanes] ? @options[:lanes].split(",") & Studio::Farm::Tickets::LANES : Studio::Farm::Tickets::LANES

      def name = @options[:name] || Socket.gethostname

      # The same for the same folder.
      def id
        FileUtils.mkdir_p(@folder)
        path = File.join(@folder, "machine")
        File.write(path, SecureRandom.hex(6)) unless File.exist?(path)
        File.read(path).strip
      end

      def facts(workshop)
        {
          id: id, name: name[0, 60], cores: @options[:cores]&.to_i || Etc.nprocessors, memory: memory,
          speed: Studio::Farm::Gauge.of(workshop.home)
        }
      end

      def memory =
        @options[:memory] ? (@options[:memory] * 1e9).to_i : (Studio::Machine.new.memory * Studio::Machine::SHARE).to_i

      # Looks by itself whether there is work.
      def asking = @hand.run_alone { |trouble| say(trouble) }

      # Sidekiq waits for calls.
      def called(home)
        engine = Vumbral::Away::Called.new(@options[:redis], home, lanes, @hand) { |trouble| say(trouble) }
        engine.call { @stopping }
      end

      # Once for what stays the same.
      def say(words)
        return if words == @said

        @said = words
        warn(words) if words
      end
    end
  end
end
