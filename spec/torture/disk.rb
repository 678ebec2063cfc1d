# frozen_string_literal: true

require "fileutils"

module Vumbral
  module Torture
    # Works on a disk of a few megabytes until it is full, again and again: every refusal is a sentence, what
    # was kept stays, and once there is room all goes on.
    class Disk
      SIZE = "24m"

      def initialize(home, random, seconds)
        @mount = File.join(home, "small")
        @random = random
        @seconds = seconds
        @rounds = @refused = 0
        @failures = []
      end

      def words
        @skipped ? "left out, for no small disk can be made here (it takes root)" : "filled #{@rounds} times, " \
"#{@refused} refusals, each a sentence"
      end

      # @return [Array<String>]
      def call
        FileUtils.mkdir_p(@mount)
        return skip unless system("mount", "-t", "tmpfs", "-o", "size=#{SIZE}", "tmpfs", @mount, err: File::NULL)

        @server = Server.new(File.join(@mount, "home")).start
        limit = Process.clock_gettime(Process::CLOCK_MONOTONIC) + @seconds * 0.8
        round while Process.clock_gettime(Process::CLOCK_MONOTONIC) < limit
        @failures
      ensure
        @server&.kill
        system("umount", "-l", @mount, err: File::NULL) unless @skipped
      end

      private

      def skip
        @skipped = true
        []
      end

      def round
        @rounds += 1
        id = @server.ask("post", "/shots", {name: "Full #{@rounds}", starter: "plume"})[1]["id"]
        return @failures << "no shot can be made on a disk with room" unless id

        before = fill(id)
        work(id)
        FileUtils.rm_f(File.join(@mount, "ballast"))
        recover(id, before)
        @server.ask("delete", "/shots/#{id}")
        @server.ask("post", "/shots/#{id}/let_go")
        FileUtils.rm_rf(Dir[File.join(@mount, "home", "{frames,views}", "*")])
      end

      # Leaves no room, or next to none. @return [Hash] the shot as it was
      def fill(id)
        before = @server.ask("get", "/shots/#{id}")[1]
        left = @random.rand(0..64) * 1024
        File.open(File.join(@mount, "ballast"), "wb") { |file| loop { file.syswrite("x" * 65_536) } }
      rescue Errno::ENOSPC
        size = File.size(File.join(@mount, "ballast"))
        File.truncate(File.join(@mount, "ballast"), [size - left, 0].max)
        before
      end

      def work(id)
        6.times do
          answers = [
            @server.ask(
              "post", "/shots/#{id}/edits",
              {edits: [{do: "set", node: "look", dial: "thickness", value: @random.rand(1.0..30.0)}]}
            ),
            @server.ask("post", "/shots/#{id}/runs", {quality: "draft"}),
            @server.ask("post", "/shots/#{id}/prints", {frame: 1})
          ]
          answers.each { |status, answer| judge(status, answer) }
          sleep 0.4
        end
        told(id)
      end

      # A run on a full disk says why it does not go on.
      def told(id)
        jobs = @server.ask("get", "/jobs")[1]["jobs"].to_a.select { |job| job["shot"] == id && job["kind"] == "run" }
        silent = jobs.select { |job| %w[queued failed].include?(job["state"]) && !(job["error"] || job["note"]) }
        @failures << "a run says nothing: #{silent.first}" if silent.any?
      end

      def judge(status, answer)
        return if status < 300
        return @failures << "#{status} without a sentence" unless answer["error"].to_s.match?(/\A[A-Z].*\.\z/)

        @refused += 1
        @failures << "#{status}: #{answer["error"]}" if answer["code"] == "internal"
      end

      def recover(id, before)
        return @failures << "a shot was lost" unless (shot = @server.ask("get", "/shots/#{id}")[1])["head"]

        @failures << "steps were lost" if shot["head"] < before["head"]
        limit = Process.clock_gettime(Process::CLOCK_MONOTONIC) + 20
        status = nil
        until status == 200 || Process.clock_gettime(Process::CLOCK_MONOTONIC) > limit
          status, = @server.ask("post", "/shots/#{id}/edits",
            {edits: [{do: "set", node: "look", dial: "thickness", value: 5.0}]})
          sleep 0.2 unless status == 200
        end
        @failures << "no edit goes through once there is room (#{status})" unless status == 200
      end
    end
  end
end
