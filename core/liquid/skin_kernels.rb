# frozen_string_literal: true

module Vumbral
  module Liquid
    # Loops that choose, pack and unpack the particles near a liquid's surface.
    module SkinKernels
      extend Kernel::Library

      # Walls are told of so far from where the liquid ends, cells.
      NEAR_WALLS = 2.0

      # So many particles make a cell one within the liquid.
      LEAST = 3
      # What stands for the particles of a cell that are left out.
      LEFT_OUT = 65_535
      # Steps along a cell, of places within it.
      STEPS = 256.0

      # Which cells hold liquid, particles or deep: 1 or 0.
      kernel out: U8[3], deep: U8[3], first: I32[1]
      def full(out, deep, first)
        each_cell(out) do |k, j, i|
          n = (k * out.dim(1) + j) * out.dim(2) + i
          out[k, j, i] = first[n + 1] - first[n] >= LEAST || deep[k, j, i] == 1 ? 1 : 0
        end
      end

      # The least (`most` false) or the most of the cells within so many along one axis (0 x, 1 y, 2 z). Outside is
      # nothing.
      kernel out: U8[3], from: U8[3], axis: I32, cells: I32, most: BOOL
      def spread(out, from, axis, cells, most)
        length = axis == 0 ? from.dim(2) : axis == 1 ? from.dim(1) : from.dim(0)
        each_cell(out) do |k, j, i|
          z = axis == 2 ? 1 : 0
          y = axis == 1 ? 1 : 0
          x = axis == 0 ? 1 : 0
          at = i * x + j * y + k * z
          low = 1
          high = 0
          (-cells..cells).each do |n|
            c = (at + n).clamp(0, length - 1) - at
            value = (at + n >= 0 && at + n < length) ? from[k + c * z, j + c * y, i + c * x].to_i : 0
            low = [low, value].min
            high = [high, value].max
          end
          out[k, j, i] = most ? high : low
        end
      end

      # How many particles of each cell are kept, or that its own are left out. Gives how many there are in all.
      kernel counts: U16[3], inner: U8[3], deep: U8[3], first: I32[1], returns: I32
      def count(counts, inner, deep, first)
        each_cell(counts) do |k, j, i|
          n = (k * counts.dim(1) + j) * counts.dim(2) + i
          here = [first[n + 1] - first[n], LEFT_OUT - 1].min
          counts[k, j, i] = inner[k, j, i] == 1 || deep[k, j, i] == 1 ? LEFT_OUT : here
        end
        total = 0
        counts.dim(0).times do |k|
          counts.dim(1).times do |j|
            counts.dim(2).times { |i| total += counts[k, j, i] == LEFT_OUT ? 0 : counts[k, j, i].to_i }
          end
        end
        total
      end

      # Where each cell's begin among those that are kept: i32 [cells + 1].
      kernel begins: I32[1], counts: U16[3]
      def begin_at(begins, counts)
        sum = 0
        n = 0
        counts.dim(0).times do |k|
          counts.dim(1).times do |j|
            counts.dim(2).times do |i|
              begins[n] = sum
              n += 1
              sum += counts[k, j, i] == LEFT_OUT ? 0 : counts[k, j, i].to_i
            end
          end
        end
        begins[n] = sum
      end

      # Places within their cells, and speeds.
      kernel at: U8[2], speed: F16[2], begins: I32[1], drops: Liquid::Drops, first: I32[1]
      def pack(at, speed, begins, drops, first)
        parallel(begins.size - 1) do |n|
          (begins[n]...begins[n + 1]).each do |p|
            q = first[n] + p - begins[n]
            3.times do |a|
              at[p, a] = ((drops.at[q, a] - drops.at[q, a].floor) * STEPS).to_i.clamp(0, 255)
              speed[p, a] = drops.speed[q, a]
            end
          end
        end
      end

      kernel dye: U8[2], begins: I32[1], drops: Liquid::Drops, first: I32[1]
      def dye(dye, begins, drops, first)
        parallel(begins.size - 1) do |n|
          (begins[n]...begins[n + 1]).each { |p| 3.times { |a| dye[p, a] = drops.dye[first[n] + p - begins[n], a] } }
        end
      end

      # As {#pack} left them, in cells from the chamber's corner.
      kernel places: F32[2], at: U8[2], begins: I32[1], counts: U16[3]
      def unpack(places, at, begins, counts)
        each_cell(counts) do |k, j, i|
          n = (k * counts.dim(1) + j) * counts.dim(2) + i
          (begins[n]...begins[n + 1]).each do |p|
            places[p, 0] = i + (at[p, 0] + 0.5) / STEPS
            places[p, 1] = j + (at[p, 1] + 0.5) / STEPS
            places[p, 2] = k + (at[p, 2] + 0.5) / STEPS
          end
        end
      end

      # Cells whose own are left out: 1 or 0.
      kernel out: U8[3], counts: U16[3]
      def left_out(out, counts)
        each_cell(out) { |k, j, i| out[k, j, i] = counts[k, j, i] == LEFT_OUT ? 1 : 0 }
      end

      # The box of the cells that have anything. @param ends i32 [6], takes the first along z, y and x, and those after
      # the last
      kernel ends: I32[1], counts: U16[3]
      def box(ends, counts)
        3.times do |axis|
          ends[axis] = counts.dim(0) + counts.dim(1) + counts.dim(2)
          ends[axis + 3] = 0
        end
        counts.dim(0).times do |k|
          counts.dim(1).times do |j|
            counts.dim(2).times do |i|
              if counts[k, j, i] > 0
                ends[0] = [ends[0], k].min
                ends[1] = [ends[1], j].min
                ends[2] = [ends[2], i].min
                ends[3] = [ends[3], k + 1].max
                ends[4] = [ends[4], j + 1].max
                ends[5] = [ends[5], i + 1].max
              end
            end
          end
        end
        3.times { |axis| ends[axis] = [ends[axis], ends[axis + 3]].min }
      end

      # How far corners lie within what the liquid may fill. @param clear how far off walls that ends, cells
      kernel walls: F16[3], far: F32[3], clear: F32
      def held(walls, far, clear)
        each_cell(walls) do |k, j, i|
          walls[k, j, i] = (far[k, j, i] - clear).clamp(-NEAR_WALLS, NEAR_WALLS)
        end
      end
    end
  end
end
