# frozen_string_literal: true

module Vumbral
  module Geometry
    # Loops that let a front run over triangles.
    module FrontKernels
      extend Kernel::Library

      NEVER = 1e30

      # Triangles by the numbers of their points' places.
      kernel out: I32[2], triangles: I32[2], numbers: I32[1]
      def renumber(out, triangles, numbers)
        parallel(out.dim(0)) { |t| 3.times { |c| out[t, c] = numbers[triangles[t, c]] } }
      end

      # Which of some places is nearest to each point once that is shifted.
      kernel out: I32[1], points: F32[2], places: F32[2], shift: F32[1]
      def nearest(out, points, places, shift)
        parallel(out.size) do |n|
          least = NEVER
          places.dim(0).times do |p|
            x = points[n, 0] + shift[0] - places[p, 0]
            y = points[n, 1] + shift[1] - places[p, 1]
            z = points[n, 2] + shift[2] - places[p, 2]
            far = x * x + y * y + z * z
            if far < least
              least = far
              out[n] = p
            end
          end
        end
      end

      kernel out: I32[1], from: I32[1], which: I32[1]
      def pick(out, from, which)
        parallel(out.size) { |n| out[n] = from[which[n]] }
      end

      # On which frame a front comes to each point: it begins on `first`, and is `per` metres further each frame, or
      # as far as `travel` says of each frame since.
      kernel out: F32[1], distance: F32[1], numbers: I32[1], travel: F32[1], per: F32, first: F32, behind: F32
      def arrive(out, distance, numbers, travel, per, first, behind)
        parallel(out.size) do |n|
          far = distance[numbers[n]]
          at = NEVER
          if far < 0.5 * NEVER
            far += behind
            at = first + far / per if per > 0.0
            if travel.size > 1
              low = 0
              high = travel.size - 1
              # The first frame by which it has come so far.
              while low < high
                middle = (low + high) / 2
                if travel[middle] >= far
                  high = middle
                else
                  low = middle + 1
                end
              end
              if travel[low] >= far
                at = first
                if low > 0
                  step = travel[low] - travel[low - 1]
                  at = first + low - 1 + (step > 0.0 ? (far - travel[low - 1]) / step : 1.0)
                end
              end
            end
          end
          out[n] = at
        end
      end

      # What is farthest comes first.
      kernel distance: F32[1]
      def turn_back(distance)
        most = 0.0
        distance.size.times { |n| most = distance[n] if distance[n] < 0.5 * NEVER && distance[n] > most }
        parallel(distance.size) { |n| distance[n] = most - distance[n] if distance[n] < 0.5 * NEVER }
      end

      # Metres before a plane that goes through space: `plane` is a place on it and the way it goes.
      kernel out: F32[1], places: F32[2], slow: F32[1], plane: F32[1]
      def sweep(out, places, slow, plane)
        parallel(out.size) do |n|
          far = 0.0
          3.times { |c| far += (places[n, c] - plane[c]) * plane[3 + c] }
          out[n] = slow[n] * [far, 0.0].max
        end
      end

      # Points in a box (its middle and size) are where a front begins. @return how many there are
      kernel arrival: F32[1], places: F32[2], box: F32[1], returns: I32
      def within(arrival, places, box)
        found = 0
        arrival.size.times do |n|
          inside = true
          3.times { |c| inside = false if (places[n, c] - box[c]).abs > 0.5 * box[3 + c] }
          if inside
            arrival[n] = 0.0
            found += 1
          end
        end
        found
      end

      # Which triangles are at each point: `starts` i32 [n + 1], all 0 before, `around` i32 [3m].
      kernel starts: I32[1], around: I32[1], triangles: I32[2]
      def gather(starts, around, triangles)
        triangles.dim(0).times { |t| 3.times { |c| starts[triangles[t, c]] += 1 } }
        sum = 0
        (starts.size - 1).times do |p|
          sum += starts[p]
          starts[p] = sum
        end
        starts[starts.size - 1] = sum
        triangles.dim(0).times do |t|
          3.times do |c|
            p = triangles[t, c]
            starts[p] -= 1
            around[starts[p]] = t
          end
        end
      end

      # Straight distances from places to the points near them: `places` f32 [k, 3]; what is nearer already stays.
      kernel arrival: F32[1], sheet: Geometry::Sheet, places: F32[2], reach: F32
      def begin_at(arrival, sheet, places, reach)
        places.dim(0).times do |k|
          near = 0
          least = NEVER
          sheet.points.dim(0).times do |p|
            d = between(sheet, p, places[k, 0], places[k, 1], places[k, 2])
            arrival[p] = [arrival[p], d * sheet.slowness[p]].min if d < reach
            if d < least
              least = d
              near = p
            end
          end
          arrival[near] = [arrival[near], 0.0].min if least >= reach
        end
      end

      # Begins at whole faces: `middles` f32 [k, 3], the nearest face to each.
      kernel arrival: F32[1], sheet: Geometry::Sheet, middles: F32[2]
      def begin_at_faces(arrival, sheet, middles)
        middles.dim(0).times do |k|
          near = 0
          least = NEVER
          sheet.triangles.dim(0).times do |t|
            far = 0.0
            3.times do |c|
              sum = 0.0
              3.times { |corner| sum += sheet.points[sheet.triangles[t, corner], c] }
              far += (sum / 3.0 - middles[k, c])**2
            end
            if far < least
              least = far
              near = t
            end
          end
          3.times { |corner| arrival[sheet.triangles[near, corner]] = 0.0 }
        end
      end

      kernel sheet: Geometry::Sheet, p: I32, x: F32, y: F32, z: F32, returns: F32
      def between(sheet, p, x, y, z)
        a = sheet.points[p, 0] - x
        b = sheet.points[p, 1] - y
        c = sheet.points[p, 2] - z
        Math.sqrt(a * a + b * b + c * c)
      end

      # Runs from where `arrival` is below NEVER to everywhere that can be reached, nearest first (Sethian 1996 on
      # triangles, Kimmel and Sethian 1998). Within a triangle the front comes from a single place unfolded into its
      # plane where both ends of an edge agree on one, which is exact on flat sheets (Reuter 2005), else straight.
      # `heap` i32 [n] and `at` i32 [n], -1 all over, are the queue.
      kernel arrival: F32[1], done: U8[1], heap: I32[1], at: I32[1], sheet: Geometry::Sheet
      def march(arrival, done, heap, at, sheet)
        size = 0
        arrival.size.times do |p|
          if arrival[p] < NEVER
            heap[size] = p
            at[p] = size
            size += 1
            rise(heap, at, arrival, at[p])
          end
        end
        while size > 0
          p = heap[0]
          size -= 1
          if size > 0
            heap[0] = heap[size]
            at[heap[0]] = 0
            sink(heap, at, arrival, size)
          end
          done[p] = 1
          (sheet.starts[p]...sheet.starts[p + 1]).each do |k|
            t = sheet.around[k]
            3.times do |c|
              q = sheet.triangles[t, c]
              if done[q] == 0
                r = sheet.triangles[t, 0] + sheet.triangles[t, 1] + sheet.triangles[t, 2] - p - q
                found = come(arrival, done, sheet, p, q, r)
                if found < arrival[q]
                  arrival[q] = found
                  if at[q] < 0
                    heap[size] = q
                    at[q] = size
                    size += 1
                  end
                  rise(heap, at, arrival, at[q])
                end
              end
            end
          end
        end
      end

      # When the front comes to `q` over the edge from `p`, where it is, to `r`, where it may be.
      kernel arrival: F32[1], done: U8[1], sheet: Geometry::Sheet, p: I32, q: I32, r: I32, returns: F32
      def come(arrival, done, sheet, p, q, r)
        slow = (sheet.slowness[p] + sheet.slowness[q] + sheet.slowness[r]) / 3.0
        a = arrival[p] / slow
        pq = between(sheet, p, sheet.points[q, 0], sheet.points[q, 1], sheet.points[q, 2])
        best = a + pq
        if done[r] == 1
          b = arrival[r] / slow
          rq = between(sheet, r, sheet.points[q, 0], sheet.points[q, 1], sheet.points[q, 2])
          c = between(sheet, p, sheet.points[r, 0], sheet.points[r, 1], sheet.points[r, 2])
          best = [best, b + rq, across(a, b, c, pq, rq)].min
        end
        best * slow
      end

      # The triangle laid flat: its edge, where the front comes at `a` and `b`, from (0, 0) to (c, 0); the place sought
      # is `m` from one end and `n` from the other.
      kernel a: F32, b: F32, c: F32, m: F32, n: F32, returns: F32
      def across(a, b, c, m, n)
        best = NEVER
        if c > 0.0
          x = (m * m - n * n + c * c) / (2.0 * c)
          y = Math.sqrt([m * m - x * x, 0.0].max)
          if (a - b).abs <= c && a + b >= c
            sx = (a * a - b * b + c * c) / (2.0 * c)
            sy = Math.sqrt([a * a - sx * sx, 0.0].max)
            crossing = sy + y > 0.0 ? sx + (x - sx) * sy / (sy + y) : sx
            best = Math.sqrt((x - sx) * (x - sx) + (y + sy) * (y + sy)) if crossing >= 0.0 && crossing <= c
          else
            # As a straight front: it rises along the edge by as much as its ends differ.
            steep = (b - a) / c
            if steep.abs < 1.0
              up = Math.sqrt(1.0 - steep * steep)
              foot = x - y * steep / up
              best = a + steep * x + up * y if foot >= 0.0 && foot <= c
            end
          end
        end
        best
      end

      # A point's way up in the queue.
      kernel heap: I32[1], at: I32[1], arrival: F32[1], from: I32
      def rise(heap, at, arrival, from)
        n = from
        p = heap[n]
        while n > 0 && arrival[heap[(n - 1) / 2]] > arrival[p]
          heap[n] = heap[(n - 1) / 2]
          at[heap[n]] = n
          n = (n - 1) / 2
        end
        heap[n] = p
        at[p] = n
      end

      # The first point's way down in a queue of a size.
      kernel heap: I32[1], at: I32[1], arrival: F32[1], size: I32
      def sink(heap, at, arrival, size)
        n = 0
        p = heap[0]
        going = true
        while going
          least = 2 * n + 1
          least += 1 if least + 1 < size && arrival[heap[least + 1]] < arrival[heap[least]]
          going = least < size && arrival[heap[least]] < arrival[p]
          if going
            heap[n] = heap[least]
            at[heap[n]] = n
            n = least
          end
        end
        heap[n] = p
        at[p] = n
      end
    end
  end
end
