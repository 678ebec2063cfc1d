# frozen_string_literal: true

require "json"

module Vumbral
  module Studio
    # Pictures, each kept with the settings that made it.
    class Prints
      LARGEST = 8192
      # Characters that may be said of one.
      NAME, NOTE = 80, 2000

      def initialize(workshop)
        @workshop = workshop
      end

      # Asks for a picture of a frame of the shot as it stands.
      # @param size [Array(Integer, Integer), nil] pixels; the shot's own otherwise
      # @return [Integer] the job's id
      def take(shot_id, frame, size: nil)
        document = @workshop.shots.document(shot_id)
        quality, key = @workshop.runs.best(shot_id, frame)
        picture = document.the(:picture)
        width, height = checked(size || [picture[:width], picture[:height]])
        finish = @workshop.finishing
        rushes = finish.any?(document) ? Rushes.of(@workshop, shot_id, document, [frame]).to_job : nil
        @workshop.jobs.add(
          "print",
          shot_id,
          {
            frame: frame, quality: quality, key: key, rushes: rushes, width: width, height: height,
            document: document.to_json, revision: @workshop.shots.fetch(shot_id)[:head]
          }
        )
      end

      # Keeps a finished picture.
      # @return [Hash]
      def keep(shot_id, png, frame:, quality:, size:, seconds:, document:, revision: nil)
        changed = Differences.line(last_document(shot_id), document)
        @workshop.db.transaction(mode: :immediate) do
          number = next_number(shot_id)
          @workshop.home.write(path(shot_id, number), png)
          id =
            table.insert(
              shot_id: shot_id, number: number, frame: frame, quality: quality, width: size[0], height: size[1],
              seconds: seconds, changed: changed, document: document.to_json, created_at: @workshop.now,
              revision: revision
            )
          show(table[id: id]).tap { |print| @workshop.events.tell("print", shot_id, **print) }
        end
      end

      # @return [Array<Hash>] newest first, without those taken away
      def list(shot_id) = hung(shot_id).reverse(:number).map { |row| show(row) }

      # @return [Integer, nil] the newest one's number
      def newest(shot_id) = hung(shot_id).max(:number)

      def fetch(shot_id, number)
        table.first(shot_id: shot_id,
          number: number) || raise(Refused.new("There is no print #{number} of this shot.", code: "unknown_print"))
      end

      # @return [String] the PNG's place
      def path(shot_id, number) = @workshop.home.within("prints", shot_id, format("%05d.png", number))

      # All that differs between a print and another, or the shot as it stands.
      def differences(shot_id, number, other = nil)
        from = other ? document(shot_id, other) : @workshop.shots.document(shot_id)
        Differences.between(from, document(shot_id, number))
      end

      # Brings a print's settings back as the shot's, as a step that can be undone.
      # @param rows [Array<Hash>, nil] only some of them: "node" and perhaps "dial", as {#differences} tells them
      def bring_back(shot_id, number, rows: nil, by: nil) =
        @workshop.shots.take_from(shot_id, document(shot_id, number), "print #{number}", rows: rows, by: by)

      # What somebody says of a print.
      # @param said [Hash] "starred", "name" and "note"; what is not said stays
      # @raise [Refused]
      def say(shot_id, number, said)
        row = fetch(shot_id, number)
        name, note = said.values_at("name", "note").map { |text| text&.to_s&.strip }
        if name.to_s.size > NAME || note.to_s.size > NOTE
          raise Refused.new("A print's name has at most #{NAME} characters, its note #{NOTE}.", code: "out_of_range")
        end

        table.where(id: row[:id]).update(
          {
            starred: said.key?("starred") ? said["starred"] == true : nil, name: name, note: note, frame: row[:frame]
          }.compact
        )
        show(fetch(shot_id, number)).tap { |print| @workshop.events.tell("print", row[:shot_id], **print) }
      end

      # Takes a print from the strip; its picture stays until {#tidy}.
      def take_away(shot_id, number) = hang(shot_id, number, @workshop.now)

      def put_back(shot_id, number) = hang(shot_id, number, nil)

      # Lets go of prints that were taken away long ago.
      def tidy
        table.where { |row| row.away_at < @workshop.now - Shots::KEPT_AWAY }.each do |row|
          table.where(id: row[:id]).delete
          FileUtils.rm_f(path(row[:shot_id], row[:number]))
        end
      end

      private

      def table = @workshop.db[:prints]

      def hung(shot_id) = table.where(shot_id: shot_id, away_at: nil)

      def hang(shot_id, number, away_at)
        row = fetch(shot_id, number)
        table.where(id: row[:id]).update(away_at: away_at)
        show(row).tap { |print| @workshop.events.tell("print", row[:shot_id], **print) }
      end

      def document(shot_id, number) = @workshop.shots.read(fetch(shot_id, number)[:document])

      # A number that was given out stays given out, for browsers keep pictures by their address.
      def next_number(shot_id)
        shots = @workshop.db[:shots].where(id: shot_id)
        last = shots.get(:last_print) || raise(Refused.new("The shot was let go meanwhile.", code: "unknown_shot"))
        shots.update(last_print: last + 1)
        last + 1
      end

      def last_document(shot_id)
        row = hung(shot_id).reverse(:number).first
        row && @workshop.shots.read(row[:document])
      end

      def show(row)
        {
          number: row[:number], frame: row[:frame], quality: row[:quality], width: row[:width], height: row[:height],
          seconds: row[:seconds], changed: row[:changed], at: row[:created_at], starred: row[:starred],
          name: row[:name], note: row[:note]
        }
      end

      def checked(size)
        return size if size.size == 2 && size.all? { |n| n.is_a?(Integer) && n.between?(16, LARGEST) }

        raise Refused.new("A picture has 16 to #{LARGEST} pixels each way, not #{size.join(" × ")}.",
          code: "out_of_range")
      end
    end
  end
end
