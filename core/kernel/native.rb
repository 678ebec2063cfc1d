# frozen_string_literal: true

require "fiddle"
require "digest"
require "json"

module Vumbral
  module Kernel
    # One library's kernels as built machine code, loaded on first use.
    class Native
      C_CALL = {f32: Fiddle::TYPE_FLOAT, f64: Fiddle::TYPE_DOUBLE, i32: Fiddle::TYPE_INT, i64: Fiddle::TYPE_LONG_LONG,
                bool: Fiddle::TYPE_INT}.freeze
      # `types` those of the arguments, records taken apart, `sorts` how each is passed, `records` whether there are any.
      Entry = Struct.new(:function, :signature, :written, :returns, :types, :sorts, :records)

      def initialize(library)
        @library = library
        @lock = Mutex.new
      end

      # Calls a kernel with buffers and numbers; lets go of Ruby's lock meanwhile.
      def call(name, values)
        load unless @entries
        entry = @entries.fetch(name)
        values = taken_apart(entry, values)
        passed = []
        # Small grids are called for often: loops without blocks, for the call must cost less than the work.
        index = 0
        types = entry.types
        while index < types.size
          value = values[index]
          case entry.sorts[index]
          when :array
            check(entry, index, value)
            passed << value.address
            passed.concat(value.shape)
          when :bool then passed << (value ? 1 : 0)
          else passed << value
          end
          index += 1
        end
        entry.written.each { |place| check_apart(entry, values, place) }
        answer(entry, passed)
      end

      # Builds the library where that has not been done, and binds it.
      def load
        @lock.synchronize do
          return if @entries

          build = Builder.new(@library).build
          handle = Fiddle.dlopen(build.path)
          @set_threads = Fiddle::Function.new(handle["vt_set_threads"], [Fiddle::TYPE_INT], Fiddle::TYPE_VOID)
          @set_threads.call(Kernel.threads)
          @entries =
            @library.kernels.to_h do |name, signature|
              [name, bind(handle, name, signature, build.written.fetch(name.to_s))]
            end
        end
      end

      def threads=(count)
        @set_threads&.call(count)
      end

      private

      def bind(handle, name, signature, written)
        types = signature.flat.values.flat_map do |type|
          if type.is_a?(Types::ArrayType)
            # As a number: what is said to be a pointer is made an object of each time.
            [Fiddle::TYPE_INTPTR_T] + [Fiddle::TYPE_INT] * type.rank
          else
            [C_CALL.fetch(type.compute)]
          end
        end
        several = signature.returns.is_a?(Array)
        types << Fiddle::TYPE_INTPTR_T if several
        result = (signature.returns.nil? || several) ? Fiddle::TYPE_VOID : C_CALL.fetch(signature.returns.compute)
        places = signature.flat.keys.each_index.select { |i| written.include?(signature.flat.keys[i].to_s) }
        Entry.new(
          Fiddle::Function.new(handle["x_#{Translator.c_name(name)}"], types, result), signature, places,
          signature.returns, signature.flat.values, signature.flat.values.map { |type| sort(type) }, signature.records?
        )
      end

      def sort(type)
        return :array if type.is_a?(Types::ArrayType)

        (type.compute == :bool) ? :bool : :number
      end

      # The values of a call, each record as its parts.
      def taken_apart(entry, values)
        signature = entry.signature
        types = signature.arguments
        if values.size != types.size
          raise ArgumentError, "#{@library}.#{signature.name} takes #{types.size} arguments, #{values.size} given"
        end
        return values unless entry.records

        types.each_value.with_index.flat_map do |type, n|
          next [values[n]] unless type.is_a?(Record)
          unless values[n].is_a?(type)
            raise ArgumentError, "#{@library}.#{signature.name} wants #{types.keys[n]} as #{type}"
          end

          values[n].to_a
        end
      end

      def answer(entry, passed)
        if entry.returns.is_a?(Array)
          room = Buffer.new(:f64, entry.returns.size)
          entry.function.call(*passed, room.address)
          return room.to_a.zip(entry.returns).map { |value, type| type.float? ? value : value.to_i }
        end
        result = entry.function.call(*passed)
        return if entry.returns.nil?

        (entry.returns.compute == :bool) ? result != 0 : result
      end

      def check(entry, index, value)
        type = entry.types[index]
        return if value.is_a?(Buffer) && value.type.equal?(type.element) && value.rank == type.rank

        raise ArgumentError,
          "#{@library}.#{entry.signature.name} wants #{named(entry, index)} as #{type}, not " \
            "#{value.inspect[0, 80]}"
      end

      def named(entry, index) = entry.signature.flat.keys[index].to_s.sub("__", ".")

      # Built kernels may assume that what they write is nothing else they are given.
      def check_apart(entry, values, place)
        mine = values[place]
        index = values.size
        while (index -= 1) >= 0
          next if index == place || !values[index].equal?(mine)

          raise ArgumentError,
            "#{@library}.#{entry.signature.name} writes #{named(entry, place)}, so #{named(entry, index)} must be " \
              "another buffer"
        end
      end
    end
  end
end
