# frozen_string_literal: true

module Vumbral
  module Sculpt
    # What sculpts came to after each of their steps, as much of it as there is room for; what was asked for last stays.
    module Kept
      # So many bytes.
      ROOM = 384 * 1024 * 1024

      @found, @last, @lock = {}, {}, Mutex.new

      module_function

      # @param key [String] of all that it depends on
      # @return [Hash{Symbol => Field}] what was kept, or else what the block makes
      def fetch(key)
        found = @lock.synchronize { (all = @found.delete(key)) && (@found[key] = all) }
        found || yield.tap { |made| keep(key, made) }
      end

      # @return [Hash{Symbol => Field}, nil] what was kept, if it is there
      def peek(key) = @lock.synchronize { @found[key] }

      # What a step was done to last and what it came to, by their keys; the newest of its place in a recipe.
      # @param place [String] which place; @param told [Array, nil] what is true from now on
      def last(place, told = nil)
        @lock.synchronize do
          before = @last.delete(place)
          @last.delete(@last.each_key.first) while @last.size > 256
          @last[place] = told || before if told || before
          before
        end
      end

      def clear
        @lock.synchronize do
          @found.clear
          @last.clear
        end
      end

      def keep(key, made)
        @lock.synchronize do
          @found[key] = made
          # The same field may be in several; each is counted once.
          @found.delete(@found.each_key.first) while @found.size > 1 && weight > ROOM
        end
      end

      def weight = @found.values.flat_map(&:values).uniq(&:object_id).sum(&:bytesize)
      private_class_method :keep, :weight
    end
  end
end
