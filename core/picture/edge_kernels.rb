# frozen_string_literal: true

module Vumbral
  module Picture
    # Which pixels hold more than a place of them tells: {Glance}'s `several` is 0 where one place is looked at, 1 where
    # four are, and 2 where nothing is to be looked at any more.
    module EdgeKernels
      extend Kernel::Library

      # A prop is folded where depths beside a pixel are off by this, as a part of its own.
      FOLD = 0.03
      # Pixels that are as far apart as this on the way from black to white have an edge between them, of a shadow or
      # of what is on a surface.
      APART = 0.12

      # Does an edge of a prop run through a pixel? Another prop beside it, or a fold: what is flat has depths whose
      # inverses are evenly apart, however much it is seen aslant.
      kernel depth: F32[2], seen: I32[2], owner: I32[1], py: I32, px: I32, returns: BOOL
      def edge(depth, seen, owner, py, px)
        found = false
        mine = seen[py, px] >= 0 ? owner[seen[py, px]] : -1
        here = depth[py, px]
        2.times do |way|
          sum = 0.0
          2.times do |side|
            y, x = beside(py, px, 2 * way + side, depth.dim(0), depth.dim(1))
            other = seen[y, x] >= 0 ? owner[seen[y, x]] : -1
            found = true if other != mine
            sum += here / depth[y, x]
          end
          found = true if mine >= 0 && (sum - 2.0).abs > FOLD
        end
        found
      end

      # The pixel below, above, right or left.
      kernel py: I32, px: I32, side: I32, rows: I32, across: I32, returns: [I32, I32]
      def beside(py, px, side, rows, across)
        y = (py + (side == 0 ? 1 : (side == 1 ? -1 : 0))).clamp(0, rows - 1)
        x = (px + (side == 2 ? 1 : (side == 3 ? -1 : 0))).clamp(0, across - 1)
        return y, x
      end

      # Marks pixels with edges of props. One of several pictures has its pixels shifted as it is.
      kernel several: U8[2], depth: F32[2], seen: I32[2], view: F32[1], scene: Picture::Scene
      def mark(several, depth, seen, view, scene)
        parallel(several.dim(0)) do |py|
          several.dim(1).times do |px|
            many = edge(depth, seen, scene.owner, py, px)
            several[py, px] = many && view[24] < 0.5 ? 1 : 0
          end
        end
      end

      # How a pixel's first place shows on film, 0 to 1, by how bright it is and how red.
      kernel hits: F32[3], gain: F32, py: I32, px: I32, returns: [F32, F32]
      def shown(hits, gain, py, px)
        red = gain * [hits[py, px, 1], 0.0].max
        bright = 0.2126 * red + gain * (0.7152 * hits[py, px, 2] + 0.0722 * hits[py, px, 3])
        return bright / (bright + SampleKernels::GREY), red / (red + SampleKernels::GREY)
      end

      # Marks those that were looked at in one place (`several`) and turned out otherwise than one beside them.
      kernel again: U8[2], several: U8[2], seen: I32[2], hits: F32[3], gain: F32
      def mark_again(again, several, seen, hits, gain)
        parallel(again.dim(0)) do |py|
          again.dim(1).times do |px|
            again[py, px] = 2
            if several[py, px] == 0 && seen[py, px] >= 0 && hits[py, px, 0] >= 0.0
              bright, red = shown(hits, gain, py, px)
              4.times do |side|
                y, x = beside(py, px, side, again.dim(0), again.dim(1))
                if seen[y, x] >= 0 && hits[y, x, 0] >= 0.0
                  other, tint = shown(hits, gain, y, x)
                  again[py, px] = 1 if (other - bright).abs > APART || (tint - red).abs > APART
                end
              end
            end
          end
        end
      end

      # Where places of a pixel are brighter than film shows, they count less beside its others (Karis 2014): a
      # quarter of something forty times too bright would be as white as all of it, and its edge a stair.
      kernel hits: F32[3], gain: F32
      def soften(hits, gain)
        parallel(hits.dim(0)) do |py|
          part = local_f32(4)
          hits.dim(1).times do |px|
            all = 0.0
            least = 1.0
            MarchKernels::SAMPLES.times do |s|
              part[s] = 1.0
              if hits[py, px, 4 * s] < MarchKernels::NONE
                light = 0.2126 * hits[py, px, 4 * s + 1] + 0.7152 * hits[py, px, 4 * s + 2] +
                  0.0722 * hits[py, px, 4 * s + 3]
                part[s] = 1.0 / [gain * light, 1.0].max
              end
              all += part[s]
              least = [least, part[s]].min
            end
            if least < 1.0 && least < 0.2499 * all
              MarchKernels::SAMPLES.times do |s|
                if hits[py, px, 4 * s] < MarchKernels::NONE && hits[py, px, 4 * s + 1] >= 0.0
                  (1...4).each { |c| hits[py, px, 4 * s + c] = hits[py, px, 4 * s + c] * 4.0 * part[s] / all }
                end
              end
            end
          end
        end
      end

      # All but the outermost pixels: `out` f32 [h, w, n] of `hits` f32 [h + 2, w + 2, n].
      kernel out: F32[3], hits: F32[3]
      def inner(out, hits)
        each_cell(out) { |py, px, c| out[py, px, c] = hits[py + 1, px + 1, c] }
      end

      # Surfaces of a part of a picture, with the edges that the whole would have there: what lies beside the part
      # is looked at, too.
      # @param view [Kernel::Buffer] as {Camera#view} tells it
      # @yield [view] one pixel wider on each side
      # @yieldreturn [Kernel::Buffer] f32 [h + 2, w + 2, n]
      # @return [Kernel::Buffer] f32 [h, w, n]
      def self.within(view)
        wide = view.copy
        2.times do |way|
          wide[12 + way] = view[12 + way] + 2.0
          3.times { |c| wide[6 + 3 * way + c] = view[6 + 3 * way + c] * wide[12 + way] / view[12 + way] }
        end
        hits = yield wide
        Kernel::Buffer.new(:f32, hits.dim(0) - 2, hits.dim(1) - 2, hits.dim(2)).tap { |out| inner(out, hits) }
      end

      # What the middle of each pixel sees, and which of them have edges.
      # @return [Glance]
      def self.glance(view, scene)
        height, width = view[13].to_i, view[12].to_i
        Glance.new(*%i[f32 i32 u8].map { |type| Kernel::Buffer.new(type, height, width) }).tap { |glance|
          SurfaceKernels.look(glance.depth, glance.seen, view, scene)
          mark(glance.several, glance.depth, glance.seen, view, scene)
        }
      end

      # Has surfaces looked at, and once more where their light has edges.
      # @param gain [Float] by how much the film makes light brighter
      # @yield [glance] twice, or once for one of several pictures
      def self.rounds(hits, glance, view, gain)
        yield glance
        return if view[24] > 0.5

        again = Kernel::Buffer.new(:u8, *glance.several.shape)
        mark_again(again, glance.several, glance.seen, hits, gain)
        yield Glance.new(glance.depth, glance.seen, again)
        soften(hits, gain)
      end
    end
  end
end
