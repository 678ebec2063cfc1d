# frozen_string_literal: true

module Vumbral
  module Away
    # What a job makes, on its way to the server: files in the order in which they were made, and what is to be told
    # once they are there. It is sent while the work goes on.
    class Outbox
      # So much may wait to be sent.
      WAITING = 16

      # @param allowed [Array<String>] names, see {Studio::Farm::Outputs#allowed}; @param sculpts [Boolean] whether
      #   recipes of sculpts go along
      def initialize(link, home, job, allowed, sculpts)
        @link, @home, @job, @allowed, @sculpts = link, home, job, allowed, sculpts
        @waiting = SizedQueue.new(WAITING)
        @thread = Thread.new { carry }
        @thread.report_on_exception = false
      end

      # @param name [String] of a file in the folder
      def put(name)
        if ours?(name) then push(["file", name])
        elsif @sculpts && beside?(name) then push(["beside", name])
        end
      end

      # @param data [Hash] told after what was put before
      def tell(path, data) = push(["word", path, data])

      # Waits until all is there. @raise [Link::Lost, Refused]
      def drain
        push(nil)
        @thread.value
      end

      # Nothing more is sent.
      def drop = @thread.kill

      private

      def ours?(name) = @allowed.any? { |one| one.end_with?(".", "-", "/") ? name.start_with?(one) : name == one }

      # Sculpts that are seen with frames of the job; the server knows whether they are.
      def beside?(name) = name.start_with?("sculpts/", "frames/", "views/") && !name.end_with?(".state")

      def push(row)
        # What went wrong on the way is said to who works.
        @thread.value unless @thread.alive?
        @waiting.push(row)
      rescue ClosedQueueError
        @thread.value
      end

      def carry
        while (kind, *row = @waiting.pop)
          break unless kind

          (kind == "word") ? @link.ask(*row) : send_file(row[0], kind)
        end
      ensure
        # Who waits for room to put something gets it, and is told.
        @waiting.close
      end

      def send_file(name, kind)
        @link.send_file(@job, name, File.join(@home.path, name))
      rescue Refused => error
        raise unless kind == "beside" && error.code == "not_allowed"
      end
    end
  end
end
