# frozen_string_literal: true

module Vumbral
  module Studio
    # Things that are made by one and used up by another meanwhile.
    class Meanwhile
      # @param waiting [Integer] so many wait at most
      # @param use [#call] takes each, one after the other, in the order in which they came
      # @yield [Meanwhile] to which they are given with {#<<}
      # @raise what was raised by either; what had been given is used up before, unless using it was what failed
      def self.run(waiting, use)
        meanwhile = new(waiting, use)
        begin
          yield meanwhile
        ensure
          meanwhile.close
        end
        meanwhile.check
      end

      def initialize(waiting, use)
        @queue = SizedQueue.new(waiting)
        @thread = Thread.new do
          while (thing = @queue.pop)
            # After the first that failed, nothing more is used, but whoever gives must not wait for ever.
            @failed ? next : use.call(thing)
          end
        rescue => error
          @failed = error
          retry
        end
      end

      def <<(thing)
        check
        @queue << thing
      end

      def close
        @queue.close
        @thread.join
      end

      # @raise what using one of them raised
      def check = @failed && raise(@failed)
    end
  end
end
