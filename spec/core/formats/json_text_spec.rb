# frozen_string_literal: true

module Vumbral
  RSpec.describe Formats::JsonText do
    def said(text) = refusal { described_class.parse(text, "list.json", remedy: "Bring another.") }

    it "reads what is JSON, and says where other text is none" do
      expect(described_class.parse('{"a": [1]}', "list.json")).to eq("a" => [1])
      expect(said("{\"a\": 1,\n \"b\" 2}")).to eq(
        [
          "not_json",
          "list.json is not JSON: it cannot be read from line 2, column 6 on, where it has \"2}\". Bring another."
        ]
      )
      expect(said("{")).to match(["not_json", /line 1, column 2 on, where it ends\. Bring another\.\z/])
      expect(said(" \n")).to eq(["not_json", "list.json is empty. Bring another."])
    end

    it "finds the place from what is left of the text where the reader tells no line" do
      allow(JSON).to receive(:parse).and_raise(JSON::ParserError.new("859: unexpected token at 'v nothing\n'"))
      expect(said("o Jar\nv nothing\n")).to match(["not_json", /from line 2, column 1 on, where it has "v nothing"/])
      allow(JSON).to receive(:parse).and_raise(JSON::ParserError.new("nesting of 101 is too deep"))
      expect(said("[[")).to eq(["not_json", "list.json is not JSON. Bring another."])
    end
  end
end
