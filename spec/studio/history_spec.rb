# frozen_string_literal: true

module Vumbral
  RSpec.describe Studio::History do
    around { |example| with_workshop { |workshop| (@workshop = workshop) && example.run } }

    let(:id) { shelve(@workshop) }
    let(:shots) { @workshop.shots }

    def smoke(value) = shots.edit(id, [set("source-1", :smoke, value)], by: "here")[:head]

    def told = @workshop.history.of(id)

    def points = told[:points].to_h { |point| [point[:number], point] }

    it "folds steps that nobody looked at into the point that they lead to" do
      [2.0, 3.0, 4.0].each { |value| smoke(value) }
      expect(told[:head]).to eq 4
      expect(points.keys).to eq [4, 1]
      expect(points[4]).to include(parent: 1, labels: have_attributes(size: 3))
      expect(points[1][:labels]).to eq ["New shot"]
    end

    it "tells where runs and prints were made" do
      run_now(@workshop, id)
      smoke(5.0)
      work(@workshop, @workshop.runs.start(id, "draft")[:job_id])
      work(@workshop, @workshop.prints.take(id, 4))
      smoke(6.0)
      expect(points.transform_values { |point| point.values_at(:runs, :prints) }).to eq(
        3 => [[], []], 2 => [[2], [1]], 1 => [[1], []]
      )
      @workshop.prints.take_away(id, 1)
      expect(points[2][:prints]).to be_empty
    end

    it "branches where one goes back and on, each on a line of its own" do
      smoke(2.0)
      smoke(3.0)
      shots.go_to(id, 2)
      smoke(4.0)
      expect(points.transform_values { |point| point[:parent] }).to eq(4 => 2, 3 => 2, 2 => 1, 1 => nil)
      expect(points.transform_values { |point| point[:line] }).to eq(4 => 0, 3 => 1, 2 => 0, 1 => 0)
    end

    it "goes to any point, from where undone and done again go by its branch" do
      smoke(2.0)
      smoke(3.0)
      shots.go_to(id, 2)
      smoke(4.0)
      expect(shots.go_to(id, 3, by: "here")[:label]).to match(/\AGone to: .*3/)
      expect(shots.document(id).node("source-1")[:smoke]).to eq 3.0
      shots.undo(id)
      expect(shots.document(id).node("source-1")[:smoke]).to eq 2.0
      shots.redo(id)
      expect(shots.document(id).node("source-1")[:smoke]).to eq 3.0
      expect(@workshop.history.differences(id, 4).map { |row| row[:dial] }).to eq [:smoke]
    end

    it "refuses points that are not there, and the one where it stands" do
      expect(refusal { shots.go_to(id, 99) }).to eq [
        "unknown_point", "The shot has no point 99 in its history any more."
      ]
      expect(refusal { shots.go_to(id, 1) }[0]).to eq "nothing_to_do"
    end
  end
end
