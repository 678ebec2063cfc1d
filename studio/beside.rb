# frozen_string_literal: true

module Vumbral
  module Studio
    # The files in a folder by their names, read when one is asked for.
    class Beside
      # @param folder [String]; @param largest [Integer] bytes
      def initialize(folder, largest)
        @folder = folder
        @largest = largest
      end

      def key?(name) = File.file?(path(name)) && File.size(path(name)) <= @largest

      def [](name) = key?(name) ? File.binread(path(name)) : nil

      private

      def path(name) = File.join(@folder, File.basename(name))
    end
  end
end
