# frozen_string_literal: true

require "json"
require "puma"
require "puma/configuration"
require "puma/launcher"
require "securerandom"

module Vumbral
  module Server
    # Starts the web server and its workers, and starts a worker again that dies.
    class Launcher
      LOOPBACK = %w[127.0.0.1 localhost ::1].freeze
      # Long work and short work side by side, so that a print does not wait for a run.
      CREW = [%w[long], %w[short]].freeze
      # Workers that were told to go have so many seconds to do it.
      PATIENCE = 1.6

      # @param token [String, nil] that is asked for; where it is not said one is made up, but for this machine alone
      def initialize(workshop, host:, port:, workers: true, token: nil, output: $stdout, json: false)
        @token = token
        @workshop = workshop
        @host = host
        @port = port
        @workers = workers
        @output = output
        @json = json
        @pids = {}
        @lock = Mutex.new
      end

      # Serves until it is told to stop by TERM or INT.
      def run
        token = @token || (LOOPBACK.include?(@host) ? nil : SecureRandom.urlsafe_base64(18))
        @workshop.tickets&.check
        EarlyLimit.install
        # Every listener is an open file.
        Process.setrlimit(:NOFILE, Process.getrlimit(:NOFILE)[1])
        Studio::Upkeep.new(@workshop).call
        broadcast = Broadcast.new(@workshop)
        app = App.new(@workshop, broadcast)
        app = Engine.beside(app, @workshop.tickets.url) if @workshop.tickets
        puma = launcher(Gate.new(app, token: token), broadcast, token)
        crew = Thread.new { tend } if @workers
        puma.run
      rescue Errno::EADDRINUSE
        raise Refused.new("Port #{@port} is taken by another program; choose another with --port.", code: "port_taken")
      ensure
        crew&.kill
        dismiss
      end

      private

      def launcher(app, broadcast, token)
        configuration = Puma::Configuration.new do |config|
          config.bind "tcp://#{@host.include?(":") ? "[#{@host}]" : @host}:#{@port}"
          config.threads 4, 32
          config.app app
          config.log_requests false
          config.environment "production"
          config.raise_exception_on_sigterm false
          config.force_shutdown_after 0.5
        end
        puma = Puma::Launcher.new(configuration, log_writer: Puma::LogWriter.null)
        puma.events.on_booted { greet(token) }
        # This is called from a signal's handler, which may not wait for anything.
        puma.events.on_stopped do
          Thread.new { broadcast.stop }
          Thread.new { dismiss }
        end
        puma
      end

      def greet(token)
        address = "http://#{@host}:#{@port}/#{"?token=#{token}" if token}"
        @output.puts(@json ? JSON.generate(address: address) : "Vumbral is at #{address}")
        @output.flush
      end

      # Keeps every worker alive.
      def tend
        loop do
          @lock.synchronize do
            missing = CREW.reject { |lanes| @pids[lanes] && running?(@pids[lanes]) }
            missing.each { |lanes| @pids[lanes] = hire(lanes) } unless @leaving
          end
          sleep 0.5
        end
      end

      def hire(lanes)
        Process.spawn(
          Studio::Worker::SURROUNDINGS.merge("VUMBRAL_REDIS" => @workshop.tickets&.url), RbConfig.ruby,
          File.join(ROOT, "bin", "vumbral"), "worker", "--home", @workshop.home.path, "--lanes", lanes.join(","),
          "--parent", Process.pid.to_s
        )
      end

      def running?(pid) = Process.waitpid(pid, Process::WNOHANG).nil?

      # Sends the workers home; who does not go in time is made to, for nothing is lost by it.
      def dismiss
        @lock.synchronize do
          @leaving = true
          @pids.each_value { |pid| send_to(pid, :TERM) }
          limit = Process.clock_gettime(Process::CLOCK_MONOTONIC) + PATIENCE
          sleep 0.02 while @pids.any? && still_there.any? && Process.clock_gettime(Process::CLOCK_MONOTONIC) < limit
          @pids.each_value { |pid| send_to(pid, :KILL) && Process.wait(pid) }
          @pids.clear
        end
      end

      def still_there = @pids.select! { |_, pid| running?(pid) } || @pids

      def send_to(pid, signal) = Process.kill(signal, pid)
    end
  end
end
