# frozen_string_literal: true

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

      def initialize(workshop, host:, port:, workers: true, output: $stdout)
        @workshop = workshop
        @host = host
        @port = port
        @workers = workers
        @output = output
      end

      def run
        token = LOOPBACK.include?(@host) ? nil : SecureRandom.urlsafe_base64(18)
        broadcast = Broadcast.new(@workshop)
        app = Gate.new(App.new(@workshop, broadcast), token: token)
        puma = launcher(app, broadcast, token)
        crew = Thread.new { tend } if @workers
        puma.run
      ensure
        crew&.kill
        dismiss
      end

      private

      def launcher(app, broadcast, token)
        configuration = Puma::Configuration.new do |config|
          config.bind "tcp://#{@host}:#{@port}"
          config.threads 4, 32
          config.app app
          config.log_requests false
          config.environment "production"
          config.http_content_length_limit 512 * 1024 * 1024
          config.force_shutdown_after 1
        end
        puma = Puma::Launcher.new(configuration, log_writer: Puma::LogWriter.null)
        puma.events.on_booted { greet(token) }
        puma.events.on_stopped { broadcast.stop }
        puma
      end

      def greet(token)
        @output.puts "Vumbral is at http://#{@host}:#{@port}/#{"?token=#{token}" if token}"
        @output.flush
      end

      # Keeps every worker alive.
      def tend
        @pids = {}
        loop do
          CREW.each do |lanes|
            @pids[lanes] = hire(lanes) unless @pids[lanes] && running?(@pids[lanes])
          end
          sleep 0.5
        end
      end

      def hire(lanes)
        Process.spawn({"OMP_WAIT_POLICY" => "passive"}, RbConfig.ruby, File.join(ROOT, "bin", "vumbral"), "worker",
          "--home", @workshop.home.path, "--lanes", lanes.join(","), "--parent", Process.pid.to_s)
      end

      def running?(pid) = Process.waitpid(pid, Process::WNOHANG).nil?

      def dismiss
        (@pids || {}).each_value { |pid| Process.kill("TERM", pid) }
        (@pids || {}).each_value { |pid| Process.waitpid(pid) }
      rescue Errno::ESRCH, Errno::ECHILD
        nil
      end
    end
  end
end
