# frozen_string_literal: true

# The whole way as a person meets it: a server with its workers on a folder of its own, a draft of
# 48 frames at about 40³, prints, and how fast the server answers meanwhile.   ruby bench/round.rb
require_relative "support"
require "json"
require "net/http"
require "socket"
require "timeout"
require "tmpdir"

module Vumbral
  module Bench
    # A server to ask.
    class House
      def initialize(home)
        @home = home
        @port = TCPServer.open("127.0.0.1", 0) { |server| server.addr[1] }
        log = File.join(home, "log")
        @pid = Process.spawn(File.join(ROOT, "bin", "vumbral"), "serve", "--home", home, "--port", @port.to_s,
          out: log, err: log)
        Timeout.timeout(60) { sleep 0.05 until File.read(log).include?("Vumbral is at") }
        # The workers load their kernels meanwhile.
        sleep 4
      end

      def ask(path, body = nil)
        request =
          body ? Net::HTTP::Post.new(path).tap { |post| post.body = JSON.generate(body) } : Net::HTTP::Get.new(path)
        JSON.parse(Net::HTTP.start("127.0.0.1", @port) { |http| http.request(request) }.body, symbolize_names: true)
      end

      def wait(job)
        loop do
          row = ask("/api/jobs/#{job}")
          return row if %w[done failed cancelled].include?(row[:state])

          sleep 0.005
        end
      end

      def stop
        Process.kill(:TERM, @pid)
        Process.wait(@pid)
      end
    end

    def self.round(house)
      house.ask("/api/shots", name: "Bench")
      set = ->(values) {
        house.ask("/api/shots/bench/edits", edits: values.map { |(node, dial), value|
          {do: "set", node: node, dial: dial, value: value}
        })
      }
      set.call({%w[general last] => 48, %w[chamber size] => [2.4, 2.4, 2.4], %w[chamber voxel] => 0.06,
%w[chamber draft] => 1.0})
      began = Process.clock_gettime(Process::CLOCK_MONOTONIC)
      clock = -> { Process.clock_gettime(Process::CLOCK_MONOTONIC) - began }
      job = house.ask("/api/shots/bench/runs", quality: "draft")[:job]
      first = nil
      answers = []
      loop do
        answers << seconds { @row = house.ask("/api/jobs/#{job}") }
        answers << seconds { @frames = house.ask("/api/shots/bench/frames")[:rows] }
        first ||= clock.call if @frames.any? { |row| row[:lit] }
        break if @row[:state] == "done"

        sleep 0.02
      end
      whole = clock.call
      abort @row[:error] unless @row[:state] == "done"
      puts format("draft of 48 frames at 40³: first frame lit after %.2f s, all after %.2f s", first, whole)
      puts format("the server answered in %.0f ms (median), %.0f ms (worst of %d) while it ran",
        1000 * answers.sort[answers.size / 2], 1000 * answers.max, answers.size)
      [[640, 360], [160, 90], [1920, 1080]].each do |size|
        times = Array.new(5) {
          seconds {
            house.wait(house.ask("/api/shots/bench/prints", frame: 40, size: size)[:job])
          }
        }
        puts format("print of %d × %d: %.2f s (median), from asking to done", *size, times.sort[2])
      end
    end
  end
end

Dir.mktmpdir do |home|
  house = Vumbral::Bench::House.new(home)
  Vumbral::Bench.round(house)
ensure
  house&.stop
end
