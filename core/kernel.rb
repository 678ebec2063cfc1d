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

      # Runs every kernel called within the block as ordinary Ruby.
      def reference
        before = Thread.current[:vumbral_reference]
        Thread.current[:vumbral_reference] = true
        yield
      ensure
        Thread.current[:vumbral_reference] = before
      end

      def reference? = Thread.current[:vumbral_reference]

      # Builds whatever is not built yet, so that no user waits for the compiler.
      # @yield [library, index, count] before each
      def build_all
        LOADER.eager_load_dir(File.join(ROOT, "core"))
        libraries.each_with_index do |library, index|
          yield library, index, libraries.size if block_given?
          library.native.load
        end
      end
    end
  end
end
