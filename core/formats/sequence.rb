# frozen_string_literal: true

module Vumbral
  module Formats
    # Files that are numbered through: names alike but for their last number, which may begin anywhere and go on by
    # any step.
    class Sequence
      # The files in order; what they are called together; how far their numbers lie apart; what was missing.
      attr_reader :names, :title, :step, :gaps

      # @param names [Array<String>]
      # @return [Sequence]
      # @raise [Refused] where they do not belong together
      def self.of(names) = new(names)

      def initialize(names)
        rows =
          names.map do |name|
            name.match(/\A(.*?)(\d+)(\.[a-z]+)\z/i) || refuse(name, "has no number before its ending")
          end
        stem, _, ending = rows[0].captures
        odd = rows.find { |row| row[1] != stem || row[3].downcase != ending.downcase }
        refuse(odd[0], "does not belong to #{rows[0][0]}") if odd
        numbered = rows.to_h { |row| [row[2].to_i, row[0]] }.sort
        @names = numbered.map(&:last)
        numbers = numbered.map(&:first)
        @step = numbers.each_cons(2).map { |a, b| b - a }.min || 1
        @title = "#{stem}#{rows[0][2].gsub(/\d/, "#")}#{ending}"
        wanted = numbers[0].step(numbers[-1], @step).to_a
        unless (numbers - wanted).empty?
          refuse(
            numbered.find { |number, _| !wanted.include?(number) }[1], "does not follow the others' step of #{@step}"
          )
        end
        missing = wanted - numbers
        @gaps = missing.empty? ? [] : ["#{missing.size} files are missing (number #{missing.first} first); the one " \
          "before each stands in for it."]
        @names = fill(wanted, numbered.to_h)
      end

      private

      def fill(wanted, numbered)
        last = nil
        wanted.map { |number| last = numbered.fetch(number, last) }
      end

      def refuse(name, words) =
        raise(
          Refused.new(
            "#{name} #{words}; bring files that are numbered through, like pot.0001.obj, pot.0002.obj.",
            code: "bad_sequence"
          )
        )
    end
  end
end
