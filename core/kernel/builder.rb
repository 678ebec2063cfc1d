# frozen_string_literal: true

require "digest"
require "fileutils"
require "json"
require "open3"

module Vumbral
  module Kernel
    # Translates one library with all it calls, has the system's compiler build it, and keeps
    # the result by a hash of what made it.
    class Builder
      Build = Struct.new(:path, :written)

      # A kernel that is longer than this with all that it calls is called itself, letters.
      LONGEST = 60_000
      # Not -ffast-math: a number that is not a number must stay visible.
      FLAGS = %w[-O3 -march=native -fno-math-errno -fno-trapping-math -fno-signed-zeros -fopenmp -fPIC -shared
        -std=gnu11 -w].freeze
      # Of use where many places are read at once, as in carrying; other processors have no such choice.
      WIDE = (RUBY_PLATFORM.include?("x86_64") ? %w[-mprefer-vector-width=512] : []).freeze

      class << self
        # Where built libraries are kept.
        def cache
          ENV.fetch("VUMBRAL_KERNEL_CACHE") { File.join(ROOT, "var", "kernels") }
        end

        # A hash of all of the core: while it holds, nothing needs to be translated again.
        def stamp
          @stamp ||= begin
            files = Dir[File.join(ROOT, "core", "**", "*.rb")].sort
            Digest::SHA256.hexdigest(files.map { |file| Digest::SHA256.file(file).hexdigest }.join + machine)[0, 20]
          end
        end

        # Built code is for this processor and compiler only.
        def machine
          @machine ||= begin
            cpu = File.exist?("/proc/cpuinfo") ? File.foreach("/proc/cpuinfo").grep(/^(flags|Features|model name)/).first(2).join : RUBY_PLATFORM
            "#{cpu}#{FLAGS.join}#{WIDE.join}#{checks?}#{compiler}"
          end
        end

        def compiler = ENV.fetch("CC", "cc")

        def checks? = ENV["VUMBRAL_KERNEL_CHECKS"] == "1"
      end

      def initialize(library)
        @library = library
      end

      # @return [Build] the shared library's path, and which arguments each kernel writes
      def build
        known || make
      end

      # @return [String] the C that the library becomes
      def source
        @source ||= begin
          order = collect
          [Prelude.text(self.class.checks?), tuples(order), order.map { |translator| "#{translator.head};\n" },
            order.map(&:definition), exports].flatten.join("\n")
        end
      end

      private

      def name = @library.name.gsub("::", "-").downcase

      def manifest = File.join(self.class.cache, "#{name}-#{self.class.stamp}#{own_stamp}.json")

      # Of a library that stands outside of the core, as in a benchmark.
      def own_stamp
        files = @library.kernels.each_value.map(&:file).uniq.reject { |file| file.start_with?(File.join(ROOT, "core")) }
        "-#{Digest::SHA256.hexdigest(files.map { |file| File.read(file) }.join)[0, 12]}" if files.any?
      end

      def known
        return unless File.exist?(manifest)

        kept = JSON.parse(File.read(manifest))
        path = File.join(self.class.cache, kept["file"])
        Build.new(path, kept["written"]) if File.exist?(path)
      rescue JSON::ParserError
        nil
      end

      def make
        digest = Digest::SHA256.hexdigest(source + self.class.machine)[0, 20]
        path = File.join(self.class.cache, "#{name}-#{digest}.so")
        FileUtils.mkdir_p(self.class.cache)
        compile(path) unless File.exist?(path)
        written = @library.kernels.to_h { |key, _| [key.to_s, written_by(key)] }
        write(manifest, JSON.generate(file: File.basename(path), written: written))
        Build.new(path, written)
      end

      def write(path, text)
        File.write("#{path}.#{Process.pid}", text)
        File.rename("#{path}.#{Process.pid}", path)
      end

      def compile(path)
        base = "#{path}.#{Process.pid}"
        File.write("#{base}.c", source)
        output, status =
          Open3.capture2e(
            self.class.compiler, *FLAGS, *WIDE, *("-DVT_CHECKS" if self.class.checks?), "-o", base, "#{base}.c", "-lm"
          )
        raise "the compiler refused #{@library}: #{output[0, 2000]}" unless status.success?

        File.rename(base, path)
      rescue Errno::ENOENT
        raise Refused.new("There is no C compiler called #{self.class.compiler}; run bin/setup, which installs one.",
          code: "no_compiler")
      ensure
        FileUtils.rm_f(["#{base}.c", base])
      end

      # Every kernel that is reached from this library, callees before callers.
      def collect
        @seen = {}
        @library.kernels.each_value { |signature| visit(signature) }
        part
        @seen.values
      end

      # What would be too long with all that it calls laid into it stands apart; else the compiler takes minutes, and
      # what is so long gains nothing by it.
      def part
        lengths = {}
        @seen.each do |key, translator|
          lengths[key] = translator.size + translator.calls.sum { |callee| lengths.fetch(Translator.symbol(callee), 0) }
          translator.apart = translator.lay_in? && lengths[key] > LONGEST
          lengths[key] = 0 if translator.apart
        end
      end

      def visit(signature)
        key = Translator.symbol(signature)
        return if @seen.key?(key)

        @seen[key] = nil
        translator = Translator.new(signature)
        translator.translate
        translator.calls.uniq.each { |callee| visit(callee) }
        @seen.delete(key)
        @seen[key] = translator
      end

      def written_by(key)
        source
        arrays_written(@library.kernels[key]).map(&:to_s)
      end

      # What a called kernel writes is written by its caller too. Found once for each, for many call the same.
      def arrays_written(signature)
        key = Translator.symbol(signature)
        @arrays_written ||= {}
        return @arrays_written[key] if @arrays_written.key?(key)

        translator = @seen.fetch(key)
        through = translator.passed.select { |_, callee, argument| arrays_written(callee).include?(argument) }
        @arrays_written[key] = (translator.written + through.map(&:first)).uniq & signature.flat.keys
      end

      def tuples(order)
        order
          .map { |translator| translator.signature.returns }
          .grep(Array)
          .uniq { |types| types.map(&:compute) }
          .map do |types|
            fields = types.each_with_index.map { |type, i| "#{Types::C_NAMES.fetch(type.compute)} v#{i};" }.join(" ")
            "typedef struct { #{fields} } #{Translator.return_type(types)};\n"
          end
      end

      def exports
        @library.kernels.map do |key, signature|
          parameters = signature.flat.flat_map { |name, type| Translator.parameter(name, type) }
          passed = parameters.map { |parameter| parameter[/\w+\z/] }.join(", ")
          call = "#{Translator.symbol(signature)}(#{passed})"
          case signature.returns
          when Array
            sets = signature.returns.each_index.map { |i| "vt_out[#{i}] = vt_r.v#{i};" }.join(" ")
            "void x_#{Translator.c_name(key)}(#{(parameters + ["double *vt_out"]).join(", ")}) { " \
              "#{Translator.return_type(signature.returns)} vt_r = #{call}; #{sets} }\n"
          when nil
            "void x_#{Translator.c_name(key)}(#{parameters.join(", ")}) { #{call}; }\n"
          else
            "#{Translator.return_type(signature.returns)} x_#{Translator.c_name(key)}(#{parameters.join(", ")}) { " \
              "return #{call}; }\n"
          end
        end
      end
    end
  end
end
