# frozen_string_literal: true

require "json"

module Vumbral
  module Studio
    # What happened, in order, for whoever watches: workers write, the server passes on.
    class Events
      KEPT = 5000

      def initialize(workshop)
        @workshop = workshop
      end

      # @param kind [String] revision, frame, job, print, lit, shots
      def tell(kind, shot_id, **data)
        id = @workshop.db[:events].insert(kind: kind, shot_id: shot_id, data: JSON.generate(data), at: @workshop.now)
        @workshop.db[:events].where { |row| row.id < id - KEPT }.delete if (id % 500).zero?
        id
      end

      # @return [Array<Hash>] id, kind, shot, data of what came after
      def since(id, limit: 500)
        @workshop.db[:events].where { |row| row.id > id }.order(:id).limit(limit).map do |row|
          {id: row[:id], kind: row[:kind], shot: row[:shot_id], data: JSON.parse(row[:data])}
        end
      end

      def last = (@last ||= @workshop.db[:events].select(Sequel.function(:max, :id))).single_value! || 0
    end
  end
end
