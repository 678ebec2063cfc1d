# frozen_string_literal: true

module Vumbral
  module Studio
    # All that was tried in a shot, as a tree: each point can be gone back to, and gone on from.
    class History
      def initialize(workshop)
        @workshop = workshop
      end

      # Points where something was looked at, where it branches and where it ends; the steps between them are told with
      # the point that they lead to.
      # @return [Hash] :head, and :points, newest first: number, parent (another point's number), labels of the steps
      #   that led there, at, by, runs, prints, and the line of the tree that it lies on
      def of(shot_id)
        shot = @workshop.shots.fetch(shot_id)
        steps = revisions(shot[:id]).select_map(%i[number parent label at by]).to_h { |row| [row[0], row] }
        runs, prints = looked(:runs, shot[:id]), looked(:prints, shot[:id])
        children = steps.values.group_by { |row| row[1] }
        seen =
          steps.keys.select do |number|
            number == shot[:head] || runs.key?(number) || prints.key?(number) || children.fetch(number, []).size != 1 ||
              !steps.key?(steps[number][1])
          end
        points =
          seen.sort.reverse.map do |number|
            point(number, steps, seen.to_set).merge(runs: runs.fetch(number, []), prints: prints.fetch(number, []))
          end
        {head: shot[:head], points: lined(points)}
      end

      # @return [Array<Hash>] the differences between a point and the shot as it stands
      # @raise [Refused]
      def differences(shot_id, number) =
        Differences.between(@workshop.shots.document(shot_id), @workshop.shots.at(shot_id, number))

      private

      def revisions(shot_id) = @workshop.db[:revisions].where(shot_id: shot_id)

      # @return [Hash{Integer => Array<Integer>}] numbers by revision
      def looked(what, shot_id)
        rows = @workshop.db[what].where(shot_id: shot_id).exclude(revision: nil)
        rows = rows.where(away_at: nil) if what == :prints
        rows
          .order(:number)
          .select_map(%i[revision number])
          .group_by(&:first)
          .transform_values { |pairs| pairs.map(&:last) }
      end

      # A point with the steps that led there from the one before.
      def point(number, steps, seen)
        labels = [steps[number][2]]
        above = steps[number][1]
        while steps.key?(above) && !seen.include?(above)
          labels.unshift(steps[above][2])
          above = steps[above][1]
        end
        {
          number: number, parent: steps.key?(above) ? above : nil, labels: labels, at: steps[number][3],
          by: steps[number][4]
        }
      end

      # Which line of the tree each point lies on: the newest of those that go on from a point stays on its line, the
      # others begin lines of their own.
      def lined(points)
        children = points.group_by { |one| one[:parent] }
        lines = {}
        free = 0
        points.reverse_each do |one|
          above = one[:parent]
          newest = children[above].map { |each| each[:number] }.max
          lines[one[:number]] = (above && newest == one[:number]) ? lines[above] : free.tap { free += 1 }
        end
        points.map { |one| one.merge(line: lines[one[:number]]) }
      end
    end
  end
end
