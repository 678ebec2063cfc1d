# frozen_string_literal: true

module Vumbral
  module Sculpt
    # What sculpts came to after each of their steps, as much of it as there is room for; what was asked for last stays.
    module Kept
      # So many bytes.
      ROOM = 384 * 1024 * 1024

      @found, @lock = {}, Mutex.new

      module_function

      # @param key [String] of all that it depends on
      # @return [Hash{Symbol => Field}] what was kept, or else what the block makes
      def fetch(key)
        found = @lock.synchronize { (all = @found.delete(key)) && (@found[key] = all) }
        found || yield.tap { |made| keep(key, made) }
      end

      def clear = @lock.synchronize { @found.clear }

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
