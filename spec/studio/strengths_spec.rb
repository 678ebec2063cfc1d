# frozen_string_literal: true

module Vumbral
  RSpec.describe Studio::Strengths do
    around { |example| with_workshop { |workshop| (@workshop = workshop) && example.run } }

    let(:id) do
      shelve(
        @workshop,
        small_shot(
          edits: [
            {
              "do" => "add",
              "kind" => "front",
              "id" => "front",
              "dials" => {
                "prop" => "prop-1", "uneven" => 0.0, "speed" => 1.0
              }
            },
            {
              "do" => "add",
              "kind" => "map",
              "id" => "young",
              "dials" => {
                "to" => "source-1", "front" => "front", "lasts" => 0.0, "rise" => 0.0
              }
            }
          ]
        )
      )
    end

    def bytes(node, frame, prop = "prop-1") = @workshop.strengths.bytes(id, node, frame, prop).unpack("C*")

    it "is a byte for each corner, and grows with the front" do
      early, late = [2, 8].map { |frame| bytes("source-1", frame) }
      expect(early.size).to eq(late.size).and be_positive
      expect(early.uniq - [0, 255]).to eq([])
      expect(early.count(255)).to be_between(1, late.count(255) - 1)
    end

    it "shows a front with its edge, and a map alone" do
      edge = bytes("front", 8)
      expect(edge.max).to eq(255)
      expect(edge.minmax[0]).to eq(0)
      expect(bytes("young", 8).count(255)).to eq(bytes("source-1", 8).count(255))
    end

    it "is nothing where there is nothing to be drawn" do
      expect(bytes("chamber", 2)).to eq([])
      expect(bytes("front", 2, "source-1")).to eq([])
      expect(refusal { bytes("nobody", 2) }&.first).to eq("unknown_node")
    end
  end
end
