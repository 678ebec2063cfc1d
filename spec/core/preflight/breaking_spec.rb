# frozen_string_literal: true

module Vumbral
  RSpec.describe Preflight::Breaking do
    def findings(**dials)
      document =
        small_shot(edits: [set("prop-1", :breaks, true), *dials.map { |dial, value| set("prop-1", dial, value) }])
      Preflight::Survey
        .new(document, nil)
        .findings
        .select do |finding|
          finding.node == "prop-1" && %w[not_closed many_pieces no_such_piece].include?(finding.code)
        end
    end

    it "has nothing to say of a closed prop that breaks into pieces that are there" do
      expect(findings(pieces: 8, outer: 0.05, outer_pieces: 12, taken: [3, 19])).to eq([])
    end

    it "says what is open, too many or not there, each with a way out" do
      expect(findings(shape: "plane").map(&:code)).to eq(%w[not_closed])
      expect(findings(pieces: 300, again: 12, again_pieces: 4)[0].text).to match(
        /would come to 1500 pieces, and 500 is the most/
      )
      gone = findings(pieces: 8, taken: [2, 40])[0]
      expect(gone.text).to match(/8 pieces at most, but piece 41 was taken away/)
      expect(gone.remedy[:edits]).to eq([{"do" => "set", "node" => "prop-1", "dial" => "taken", "value" => [2]}])
    end
  end
end
