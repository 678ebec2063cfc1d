# frozen_string_literal: true

# What each way of carrying costs and how far it is off: a soft blob turned once about the middle of a
# box, so that the default can be seen to be the best bargain.   ruby bench/transport.rb
require_relative "support"
require_relative "truth/gas"

module Vumbral
  module Bench
    # One blob, one turn.
    class TransportBench
      def initialize(edge)
        @edge = edge
        @way = Truth::Gas.turn(edge)
        @blob = Truth::Gas.field(edge, edge, edge) do |k, j, i|
          Math.exp(-[k + 0.5 - 0.5 * edge, j + 0.5 - 0.75 * edge, i + 0.5 - 0.5 * edge].sum { |d|
            (d / edge)**2
          } / (2 * 0.05**2))
        end
      end

      # @return [Array(Float, Float)] seconds and error of a whole turn
      def turn(cells, sharp)
        steps = (2 * Math::PI * 0.25 * @edge / cells).round
        transport = Flow::Transport.new([@edge] * 3, 1.0 / @edge, {})
        smoke = @blob.copy
        seconds = Bench.seconds do
          steps.times do
            transport.follow(@way, 1.0 / steps)
            smoke, = transport.carry(smoke, sharp: sharp)
          end
        end
        before = @blob.to_a
        [seconds, before.zip(smoke.to_a).sum { |a, b| (a - b).abs } / before.sum]
      end
    end

    def self.transport
      rows = [48, 64, 96].flat_map do |edge|
        bench = TransportBench.new(edge)
        bench.turn(4.0, true)
        [4.0, 2.0, 1.0].flat_map { |cells|
          [true, false].map { |sharp|
            [edge, cells, sharp, *bench.turn(cells, sharp)]
          }
        }
      end
      puts "edge  cells a step  how    a whole turn    error    times as far off as sharp at 64, 4 cells, for its cost"
      base = rows.find { |row| row[0, 3] == [64, 4.0, true] }
      rows.each do |edge, cells, sharp, seconds, off|
        puts format(
          "%4d  %12.1f  %-5s  %9.2f s  %9.4f  %10.1f × at %.1f × the cost", edge, cells, sharp ? "sharp" : "soft",
          seconds, off, off / base[4], seconds / base[3]
        )
      end
    end
  end
end

Vumbral::Bench.transport
