# frozen_string_literal: true

module Vumbral
  module Away
    # The engine as a worker elsewhere has it: how its one job stands is told to the server, which says whether it is
    # still wanted.
    class Jobs
      # It is told so often at most, seconds.
      TOLD = 0.25
      # What the server said holds so long, seconds.
      HOLDS = 1.0

      def initialize(workshop)
        @workshop = workshop
        @lock = Monitor.new
      end

      # @param job [Hash] that is begun
      def take(job) =
        @lock.synchronize { @job, @said, @told, @asked, @began = job, {"wanted" => true}, 0.0, clock, clock }

      # @return [Boolean] whether the job is still wanted
      def renew(_id)
        sign({})
        !cancelled?(nil)
      rescue Link::Lost
        # The work itself will find out.
        true
      end

      def progress(_id, done, total, note = nil, from_here: false)
        @lock.synchronize { @state = {done: done, total: total, note: note, from_here: from_here} }
        sign(@state) if from_here || done == total || clock - @told >= TOLD
      end

      def cancelled?(_id) = !said["wanted"]

      def held?(_id) = said["held"]

      def waiting?(_lane) = said["waiting"]

      def finish(_id, result)
        # Between hand and server it may have been asked to stop; it is done all the same.
        @workshop.outbox.drain
        post("finish", {result: result, seconds: (clock - @began).round(3)})
      end

      def fail(_id, message, code) = post("fail", {message: message, code: code})

      def close(_id, _state) = post("give_back", {cancelled: true})

      def release(_id) = post("give_back", {})

      private

      def clock = Process.clock_gettime(Process::CLOCK_MONOTONIC)

      def said
        sign({}) if clock - @asked > HOLDS
        @said
      end

      def sign(state)
        @lock.synchronize do
          @told = clock unless state.empty?
          @asked = clock
          @said = post("sign", state)
        end
      rescue Refused => error
        raise unless Hand::GONE.include?(error.code)

        # Others have it by now.
        @said = {"wanted" => false}
      end

      def post(what, data) = @workshop.link.ask("/api/farm/jobs/#{@job["id"]}/#{what}", data)
    end
  end
end
