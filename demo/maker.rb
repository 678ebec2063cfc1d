# frozen_string_literal: true

require "json"

module Vumbral
  module Demo
    # Puts the demo shots on the shelf, each with a print that comes with the repository, and asks for their
    # frames in the background. A shot that was made once is not made again, even if it was thrown away
    # since.
    class Maker
      SHOTS = [KilnDraw, LidBurst, MorningYard, ClayCloud, FairSign, PaperLeaf, BrokenBowls, DownTheFlue, EatenTile,
        Burner, Quench, TroughKick, GlazeFill, Lantern, CarriedTorch, IntoTheVat, VatSplash].freeze

      # @param workshop [Studio::Workshop]
      def initialize(workshop)
        @workshop = workshop
      end

      # @return [Array<String>] names of the shots made now
      def call
        # The newest stands first on the shelf.
        fresh = SHOTS.reject { |shot| made.include?(shot::ID) || (shot.respond_to?(:plates) && !Studio::Movie.there?) }
        ids = fresh.reverse.to_h { |shot| [shot, make(shot)] }
        # What has nothing to run is made when it is looked at.
        fresh
          .select { |shot| runs?(@workshop.shots.document(ids[shot])) }
          .each { |shot| @workshop.runs.start(ids[shot], "draft", background: true) }
        fresh.map { |shot| shot::NAME }
      end

      private

      def runs?(document) = !@workshop.runs.still?(document) || @workshop.liquids.any?(document)

      def list = @workshop.home.within("demo.json")

      def made = File.exist?(list) ? JSON.parse(File.read(list)) : []

      def make(shot)
        # One that was interrupted goes on.
        row = @workshop.db[:shots][id: shot::ID] || @workshop.shots.import(Studio::Starters.bare(shot::NAME).to_json)
        @workshop.shots.edit(row[:id], Brought.new(@workshop).edits(shot)) if row[:head] == 1
        hang(row[:id], shot) if @workshop.prints.list(row[:id]).empty?
        @workshop.home.write(list, JSON.generate(made | [shot::ID]))
        row[:id]
      end

      # The print that was made of this very shot and comes along.
      def hang(id, shot)
        png = File.binread(File.join(ROOT, "demo", "pictures", "#{shot::ID}.png"))
        width, height = png[16, 8].unpack("N2")
        @workshop.prints.keep(id, png, frame: shot::PRINT, quality: "draft", size: [width, height], seconds: 0.0,
          document: @workshop.shots.document(id))
      end
    end
  end
end
