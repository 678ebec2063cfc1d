# frozen_string_literal: true

module Vumbral
  # A stand-in that goes where its spots are, whose keys are set as if they had been followed.
  RSpec.describe Studio::PinWork do
    include FinishHelp

    around { |example| with_workshop { |workshop| (@workshop = workshop) && example.run } }

    let(:corners) { [[-0.22, -0.17, 0.2], [0.22, -0.17, 0.2], [0.22, 0.17, 0.2], [-0.22, 0.17, 0.2]] }

    def pose(frame) =
      Geometry::Pose.new([-0.5 + 0.1 * frame, 1.0, 0.4 - 0.05 * frame], [2.0 * frame, 5.0 * frame, 0.0], [1.0] * 3)

    def spots(camera)
      corners.each_with_index.map do |corner, n|
        seen =
          (1..4).map { |frame| [frame, Finish::Spots.seen(camera, pose(frame).transform.apply(corner), 96 / 54.0)] }
        {
          "do" => "add",
          "kind" => "track",
          "id" => "spot-#{n}",
          "name" => "Spot #{n}",
          "dials" => {
            "prop" => "box", "place" => corner
          },
          "keys" => {
            "x" => seen.map { |frame, spot| {"frame" => frame, "value" => 100 * spot[0]} },
            "y" => seen.map { |frame, spot| {"frame" => frame, "value" => 100 * spot[1]} }
          }
        }
      end
    end

    it "gives it keys where all spots are known, as one step, and says how far off they are" do
      box = {
        "do" => "add",
        "kind" => "prop",
        "id" => "box",
        "name" => "Box",
        "dials" => {
          "shape" => "box", "size" => [0.44, 0.34, 0.4], "position" => [-0.3, 1.1, 0.3]
        }
      }
      document = small_shot(edits: [set("general", :last, 4), box])
      document, = Shot::Edits.apply(document, spots(Picture::Camera.settings(document, 1)))
      id = shelve(@workshop, document)
      row = work(@workshop, @workshop.tracking.pin(id, "box", by: "me"))
      expect(JSON.parse(row[:result])).to include("name" => "Box", "frames" => 4, "off" => be < 0.01)
      pinned = @workshop.shots.document(id)
      (1..4).each do |frame|
        expect(Geometry::Bodies.pose(pinned.node("box"), frame, pinned)["position"]).to all_be_near(
          pose(frame).position, 0.002
        )
      end
      @workshop.shots.undo(id, by: "me", others: false)
      expect(@workshop.shots.document(id).node("box").curves).to be_empty
    end

    it "fills gaps between keys when a spot's way is made even" do
      keys =
        {
          "x" => [[1, 10.0], [2, 12.0], [4, 16.0]], "y" => [[1, 50.0], [2, 50.0], [4, 50.0]]
        }.transform_values do |rows|
          rows.map { |frame, value| {"frame" => frame, "value" => value, "ease" => "linear"} }
        end
      id =
        shelve(
          @workshop,
          small_shot(
            edits: [
              set("general", :last, 4),
              {"do" => "add", "kind" => "track", "id" => "spot", "name" => "Spot", "keys" => keys},
              {"do" => "add", "kind" => "track", "id" => "bare", "name" => "Bare"}
            ]
          )
        )
      @workshop.tracking.smooth(id, "spot", 1.0)
      expect(
        @workshop.shots.document(id).node("spot").keyed(:x).to_a.map { |key| [key[:frame], key[:value].round(3)] }
      ).to eq([[1, 10.0], [2, 12.0], [3, 14.0], [4, 16.0]])
      expect(refusal { @workshop.tracking.smooth(id, "bare", 1.0) }[1]).to match(/Bare has not been followed/)
      expect(refusal { @workshop.tracking.smooth(id, "spot", 99) }[1]).to match(/0 to 24 frames/)
    end

    it "says what it lacks" do
      id = shelve(@workshop, small_shot(edits: [{"do" => "add", "kind" => "prop", "id" => "box", "name" => "Box"}]))
      @workshop.shots.edit(
        id,
        corners.each_with_index.map do |corner, n|
          {
            "do" => "add",
            "kind" => "track",
            "id" => "spot-#{n}",
            "name" => "Spot",
            "dials" => {
              "prop" => "box", "place" => corner
            }
          }
        end
      )
      expect(refusal { @workshop.tracking.pin(id, "box") }[1]).to match(
        /not all known on any frame; follow each of them first/
      )
      expect(refusal { @workshop.tracking.pin(id, "camera") }[1]).to match(/is no prop/)
      @workshop.shots.edit(id, [set("box", :leader, "prop-1")])
      expect(refusal { @workshop.tracking.pin(id, "box") }[1]).to match(/goes with another prop/)
    end
  end
end
