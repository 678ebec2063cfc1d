# frozen_string_literal: true

require "net/http"
require "socket"

module Vumbral
  # The real server in a process of its own, to be asked, stopped and killed.
  class Live
    attr_reader :home, :port, :pid

    def initialize(home, workers: true)
      @home = home
      @port = TCPServer.open("127.0.0.1", 0) { |server| server.addr[1] }
      @log = File.join(home, "server.log")
      @pid =
        Process.spawn(
          {"BUNDLE_WITHOUT" => nil, "RUBYOPT" => nil}, File.join(ROOT, "bin", "vumbral"), "serve", "--home", home,
          "--port", @port.to_s, *("--no-workers" unless workers), out: @log, err: @log
        )
      Timeout.timeout(60) { sleep 0.05 until said.include?("Vumbral is at") }
    end

    # What it has printed.
    def said = File.read(@log)

    def workshop = @workshop ||= Studio::Workshop.new(@home)

    # @return [Array(Integer, Hash)] status and answer
    def ask(method, path, body = nil, **headers)
      request = Net::HTTP.const_get(method.to_s.capitalize).new("/api#{path}",
        {"content-type" => "application/json"}.merge(headers.transform_keys(&:to_s)))
      request.body = JSON.generate(body) if body
      response = Net::HTTP.start("127.0.0.1", @port) { |http| http.request(request) }
      [response.code.to_i, JSON.parse(response.body, symbolize_names: true)]
    end

    # Sends bytes as they are. @return [String] all that comes back
    def raw(bytes)
      TCPSocket.open("127.0.0.1", @port) do |socket|
        socket.write(bytes)
        Timeout.timeout(10) { socket.read }
      end
    end

    # @return [TCPSocket] that hears of what happens
    def listener(since: nil)
      socket = TCPSocket.new("127.0.0.1", @port)
      socket.write("GET /api/events#{"?since=#{since}" if since} HTTP/1.1\r\nHost: localhost\r\n\r\n")
      socket
    end

    # @return [Array(Integer, Float)] exit code, and the seconds it took
    def stop
      began = Process.clock_gettime(Process::CLOCK_MONOTONIC)
      Process.kill(:TERM, @pid)
      Timeout.timeout(30) { Process.wait(@pid) }
      [$?.exitstatus, Process.clock_gettime(Process::CLOCK_MONOTONIC) - began]
    ensure
      @pid = nil
    end

    def kill
      return unless @pid

      Process.kill(:KILL, @pid)
      Process.wait(@pid)
      @pid = nil
    end
  end
end
