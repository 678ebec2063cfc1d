# frozen_string_literal: true

module Vumbral
  module Formats
    # What a file holds that can stand in a shot: a mesh, or one for each of its frames, cameras and lamps.
    class Model
      # A camera or a lamp at each frame: plain dials by their names.
      Placed = Struct.new(:name, :kind, :poses)

      # `frames` holds one mesh for each frame; `rate` says how many of them there are in a second, nil where a
      # frame of the file is one of the shot; `others` what stands beside the mesh; `left_out` sentences.
      attr_reader :frames, :rate, :others, :left_out

      # @param frames [Array<Geometry::Mesh>] at least one
      # @param rate [Float, nil]; @param others [Array<Placed>]; @param left_out [Array<String>]
      def initialize(frames, rate: nil, others: [], left_out: [])
        @frames = frames
        @rate = rate
        @others = others
        @left_out = left_out
      end

      def mesh = @frames[0]

      def moves? = @frames.size > 1
    end
  end
end
