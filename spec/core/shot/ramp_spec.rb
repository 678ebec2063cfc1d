# frozen_string_literal: true

module Vumbral
  RSpec.describe Shot::Ramp do
    def ramp(*rows) = described_class.new(rows.map { |at, value, pass|
      {"at" => at, "value" => value,
       "pass" => pass || "linear"}
    })

    it "passes straight, smoothly or not at all, and stays at its ends" do
      course = ramp([0.0, 1.0, "linear"], [1.0, 3.0, "smooth"], [2.0, 0.0, "held"], [3.0, 5.0])
      expect([-1.0, 0.0, 0.5, 1.0, 1.5, 2.0, 2.9, 3.0, 9.0].map { |at| course.at(at)[0] })
        .to match([1.0, 1.0, 2.0, 3.0, 1.5, 0.0, 0.0, 5.0, 5.0].map { |value| be_within(1e-12).of(value) })
      expect(course.at(1.01)[0]).to be_within(0.001).of(3.0)
    end

    it "jumps where two stops stand at one place, and takes colours part by part" do
      step = ramp([0.0, [0.0, 0.0, 1.0]], [0.5, [0.0, 1.0, 1.0]], [0.5, [1.0, 0.0, 0.0]], [1.0, [1.0, 0.0, 0.0]])
      expect([step.at(0.25), step.at(0.5), step.at(0.499)]).to match([[0.0, 0.5, 1.0], [1.0, 0.0, 0.0], [0.0,
        be_within(0.01).of(1.0), 1.0]])
    end

    it "is one value everywhere with one stop, and is found again in its table" do
      expect(ramp([0.4, 0.7]).then { |one| [one.at(-5.0), one.at(5.0), one.ends] }).to eq([[0.7], [0.7], [0.4, 0.4]])
      table = ramp([0.0, 0.0], [1.0, 2.0]).table(11, 0.0, 1.0)
      expect(table.to_a).to match((0..10).map { |n| be_within(1e-6).of(0.2 * n) })
    end

    # @return what a shot's look holds after an edit, or the sentence that refused it
    def given(value, dial = :density_ramp)
      Shot::Edits.apply(small_shot, [set("look", dial, value)])[0].look[dial]
    rescue Refused => error
      error.message
    end

    it "is kept in order, and says what is wrong with a stop, and what is allowed" do
      expect(given([{"at" => 2, "value" => 1}, {"at" => 0.5, "value" => 0, "pass" => "held"}]))
        .to eq([{"at" => 0.5, "value" => 0.0, "pass" => "held"}, {"at" => 2.0, "value" => 1.0, "pass" => "smooth"}])
      expect(given([{"at" => 0.0,
                     "value" => -1.0}])).to eq("Density of Look: stop 1 has the value -1.0; it goes from 0 to 1000.")
      expect(given([{"at" => -0.1, "value" => 1.0}])).to match(/stop 1 stands -0.1; it goes from 0 to 1000/)
      expect(given([{"at" => 0.0, "value" => [1, -1, 0]}],
        :smoke_ramp)).to match(/stop 1 has a colour of -1; it goes from 0 to 1/)
      expect(given([{"at" => 0.0, "value" => 1.0}], :smoke_ramp)).to match(
        /stop 1 takes three numbers \(red, green, blue\), not 1.0/
      )
      expect(given([{"at" => 0.0, "value" => 1.0, "pass" => "wavy"}])).to match(
        /stop 1 goes on smooth, linear, held, not "wavy"/
      )
      expect(given("0 to 1")).to match(/takes a list of stops/)
      expect(given([{"at" => Float::NAN, "value" => 1.0}])).to match(/stop 1 stands NaN/)
      expect(given(Array.new(33) { |n| {"at" => n, "value" => 1.0} })).to match(/33 stops; 32 is the most/)
    end

    it "comes back from a file as it was saved, and is told in words" do
      stops = [{"at" => 0.0, "value" => [0.1, 0.2, 0.3], "pass" => "held"}]
      document = Shot::Edits.apply(small_shot, [set("look", :smoke_ramp, stops)])[0]
      expect(Shot::Document.load(document.to_json)).to eq(document)
      expect(Shot::Edits.apply(document, [set("look", :smoke_ramp, [])])[1]).to eq("Colours 1 stop from 0 to 0 → none")
    end
  end

  RSpec.describe Shot::Looks do
    it "holds only looks that a shot can take, each with a picture" do
      described_class::ALL.each_key do |name|
        document, word =
          Shot::Edits.apply(
            small_shot(edits: [set("look", :edge, 1.0)]), [{"do" => "take_look", "node" => "look", "look" => name}]
          )
        expect(word).to match(/Look looks like/)
        expect(document.look.values.keys.map(&:to_s)).to match_array(
          described_class.fetch(name).dials.keys & document.look.values.keys.map(&:to_s)
        )
        expect(File).to exist(File.join(ROOT, "web", "public", "looks", "#{name}.png"))
      end
    end

    it "refuses what is no look and what can take none" do
      expect {
        Shot::Edits.apply(small_shot, [{"do" => "take_look", "node" => "look",
                                        "look" => "x"}])
      }.to raise_error(Refused, /no look "x"; there are: oil-smoke/)
      expect {
        Shot::Edits.apply(small_shot, [{"do" => "take_look", "node" => "sun-1",
                                        "look" => "dust"}])
      }.to raise_error(Refused, /is no look/)
    end

    it "lets a shot have several, of which the picture shows one; the first one stays" do
      two = small_shot(edits: [{"do" => "add", "kind" => "look", "id" => "black", "name" => "Black",
                                "dials" => {"thickness" => 70.0}}, set("picture", :look, "black")])
      expect([two.look.id, Light::Rig.settings(two, 1)["thickness"]]).to eq(["black", 70.0])
      expect(Shot::Edits.apply(two, [{"do" => "remove", "node" => "black"}])[0].look.id).to eq("look")
      expect { Shot::Edits.apply(two, [{"do" => "remove", "node" => "look"}]) }.to raise_error(Refused,
        /belongs to every shot/)
      expect(Shot::Document.load(two.to_json)).to eq(two)
      # What was run does not depend on it.
      keys = [small_shot, two].map { |document|
        Gas::Plan.new(document, :draft).then { |plan|
          [plan.ground,
            plan.at(3)]
        }
      }
      expect(keys[0]).to eq(keys[1])
    end
  end
end
