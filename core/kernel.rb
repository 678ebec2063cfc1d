# frozen_string_literal: true

require "etc"

module Vumbral
  # Inner loops written as plain Ruby methods and carried out at the machine's speed.
  # See {Library} for how to write one, {Translator} for what may stand in it.
  module Kernel
    class << self
      # @return [Array<Module>] every module that holds kernels, in load order
      def libraries = @libraries ||= []

      # How many threads a kernel may use; one process's share when several work side by side.
      def threads = @threads ||= Integer(ENV.fetch("VUMBRAL_THREADS", Etc.nprocessors))

      def threads=(count)
        @threads = count
        libraries.each { |library| library.native.threads = count }
      end

      # Leaves a core to others while a block is carried out. Numbers do not depend on it.
      def sparing
        before = threads
        self.threads = [before - 1, 1].max
        yield
      ensure
        self.threads = before
      end

      # Runs every kernel called within the block as ordinary Ruby.
      def reference
        before = Thread.current[:vumbral_reference]
        Thread.current[:vumbral_reference] = true
        yield
      ensure
        Thread.current[:vumbral_reference] = before
      end

      def reference? = Thread.current[:vumbral_reference]

      # Builds whatever is not built yet, several at a time, so that no user waits for the compiler.
      # @yield [done, count] whenever one more is there
      def build_all
        LOADER.eager_load_dir(File.join(ROOT, "core"))
        waiting = Queue.new
        libraries.each { |library| waiting << library }
        ready = Queue.new
        builders = Array.new(Etc.nprocessors) { Thread.new { build_from(waiting, ready) } }
        libraries.size.times do |n|
          raised = ready.pop
          raise raised if raised
          yield n + 1, libraries.size if block_given?
        end
      ensure
        waiting&.clear
        builders&.each(&:join)
      end

      private

      # Says for each library that it is there, or what went wrong.
      def build_from(waiting, ready)
        loop do
          waiting.pop(true).native.load
          ready << nil
        end
      rescue ThreadError
        nil
      rescue StandardError, OutsideSubset => error
        ready << error
      end
    end
  end
end
