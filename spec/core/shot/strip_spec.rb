# frozen_string_literal: true

module Vumbral
  RSpec.describe Shot::Strip do
    def strip(*dials, edits: []) =
      described_class.new(small_shot(edits: edits), dials.map { |dial| dial.transform_keys(&:to_s) })

    let(:curl) { {node: "chamber", dial: "curl_boost", values: [0.0, 1.0, 2.0]} }
    let(:smoke) { {node: "source-1", dial: "smoke", from: 2.0, times: 2.0, count: 2} }

    it "joins every value of one dial with every value of the others, the first across" do
      made = strip(curl, smoke, {node: "general", dial: "seed", from: 1, to: 2, count: 2})
      expect(made.size).to eq(12)
      expect([0, 1, 3, 11].map { |n| made.values(n) }).to eq(
        [[0.0, 2.0, 1], [1.0, 2.0, 1], [0.0, 4.0, 1], [2.0, 4.0, 2]]
      )
      expect(made.at(11).node("chamber")[:curl_boost]).to eq(2.0)
      expect(made.axes.map(&:label)).to eq(["Curl boost of Chamber", "Smoke of Plume", "Seed of Shot"])
    end

    it "takes lists, even steps and factors; whole numbers stay whole, what is the same counts once" do
      expect(strip({node: "chamber", dial: "curl_boost", from: 0, to: 3, count: 4}).axes[0].values).to eq(
        [0.0, 1.0, 2.0, 3.0]
      )
      expect(strip({node: "source-1", dial: "smoke", from: 1.5, times: 3, count: 3}).axes[0].values).to eq(
        [1.5, 4.5, 13.5]
      )
      expect(strip({node: "general", dial: "seed", from: 1, to: 2, count: 5}).axes[0].values).to eq([1, 2])
      expect(strip({node: "prop-1", dial: "shape", values: %w[box sphere]}).axes[0].values).to eq(%w[box sphere])
    end

    it "refuses in a sentence what it cannot vary" do
      key = {"do" => "key", "node" => "source-1", "dial" => "smoke", "frame" => 1, "value" => 1.0}
      {
        -> { strip } => /one to 3 dials/,
        -> { strip(curl.merge(values: [0.0, 900.0])) } => /Curl boost/,
        -> { strip(curl.merge(dial: "charm")) } => /has no dial "charm"/,
        -> { strip(curl, curl) } => /varied twice/,
        -> { strip({node: "general", dial: "seed", from: 1, to: 700, count: 700}, curl) } =>
          /2100 variations; 1000 is the most/,
        -> { strip(smoke, edits: [key]) } => /changes over time/,
        -> { strip({node: "prop-1", dial: "shape", from: 1, to: 2, count: 2}) } => /is no number/,
        -> { strip({node: "nobody", dial: "x", values: [1]}) } => /There is no "nobody"/,
        -> { strip({node: "chamber", dial: "curl_boost", from: 1}) } => /say values, or from where/,
        -> { strip(curl.merge(values: [])) } => /at least one/
      }.each { |asked, sentence| expect(refusal(&asked)[1]).to match(sentence) }
    end
  end
end
