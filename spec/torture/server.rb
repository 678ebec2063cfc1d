# frozen_string_literal: true

require "json"
require "net/http"
require "socket"
require "timeout"

module Vumbral
  module Torture
    # The real server on a data folder, to be started, asked and killed.
    class Server
      attr_reader :home, :pid, :port

      def initialize(home)
        @home = home
        @log = File.join(Dir.tmpdir, "vumbral-torture-#{Process.pid}.log")
      end

      # @param more [Array<String>] of the command line
      def start(*more)
        @port = TCPServer.open("127.0.0.1", 0) { |server| server.addr[1] }
        File.write(@log, "")
        @pid = Process.spawn(File.join(ROOT, "bin", "vumbral"), "serve", "--home", @home, "--port", @port.to_s, *more,
          out: @log, err: @log)
        Timeout.timeout(60) { sleep 0.05 until File.read(@log).include?("Vumbral is at") }
        self
      end

      # Kills the server, and perhaps its workers with it.
      def kill(workers: true)
        doomed = workers ? crew : []
        [@pid, *doomed].each { |pid| Process.kill(:KILL, pid) }
        Process.wait(@pid)
      rescue Errno::ESRCH, Errno::ECHILD
        nil
      end

      # Kills one worker.
      def wound(random)
        pid = crew.sample(random: random)
        Process.kill(:KILL, pid) if pid
      rescue Errno::ESRCH
        nil
      end

      # @return [Array(Integer, Float)] exit code and seconds it took
      def stop
        began = Process.clock_gettime(Process::CLOCK_MONOTONIC)
        Process.kill(:TERM, @pid)
        Timeout.timeout(30) { Process.wait(@pid) }
        [$?.exitstatus, Process.clock_gettime(Process::CLOCK_MONOTONIC) - began]
      end

      # @return [Array(Integer, Hash)] status and answer
      def ask(method, path, body = nil, headers = {})
        request = Net::HTTP.const_get(method.capitalize).new("/api#{path}",
          {"content-type" => "application/json"}.merge(headers))
        request.body = body.is_a?(String) ? body : JSON.generate(body) if body
        response = Net::HTTP.start("127.0.0.1", @port, read_timeout: 60) { |http| http.request(request) }
        [response.code.to_i, begin
          JSON.parse(response.body)
        rescue JSON::ParserError
          {}
        end]
      end

      private

      def crew
        Dir["/proc/[0-9]*/stat"].filter_map do |path|
          words = File.read(path)[/\).*/m].to_s.split
          path[/\d+/].to_i if words[2].to_i == @pid
        rescue SystemCallError
          nil
        end
      end
    end
  end
end
