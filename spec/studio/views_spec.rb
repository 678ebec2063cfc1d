# frozen_string_literal: true

module Vumbral
  RSpec.describe Studio::Views do
    around { |example| with_workshop { |workshop| (@workshop = workshop) && example.run } }

    let(:id) { shelve(@workshop) }

    let(:views) { @workshop.views }

    def light(frame = 3) = views.light_key(@workshop.shots.document(id), frame)

    def lit = @workshop.runs.state(id, "draft")[:rows].map { |row| row[:lit] }

    def key(node, dial, frame, value)
      {"do" => "key", "node" => node, "dial" => dial.to_s, "frame" => frame, "value" => value}
    end

    it "names the light by what lights, and by nothing else" do
      before = light
      @workshop.shots.edit(id, [set("source-1", :smoke, 1.0), set("camera", :focal, 80.0)])
      expect(light).to eq(before)
      [
        set("sun-1", :strength, 0.1), set("sky", :strength, 0.9), set("look", :thickness, 3.0),
        set("prop-1", :radius, 0.5)
      ].each do |edit|
        @workshop.shots.edit(id, [edit])
        expect(light).not_to eq(before)
        before = light
      end
    end

    it "has one light for all frames where nothing moves, and one for each where a prop does" do
      expect((1..8).map { |frame| light(frame) }.uniq.size).to eq(1)
      @workshop.shots.edit(id, [key("prop-1", :position, 1, [0, 0, 0]), key("prop-1", :position, 4, [1, 0, 0])])
      expect((1..8).map { |frame| light(frame) }.uniq.size).to eq(5)
    end

    it "lights what a run without the browser left dark, nearest to where it stands first" do
      run_now(@workshop, id, views: false)
      expect(lit).to eq([false] * 8)
      order = []
      allow(@workshop.events).to receive(:tell).and_wrap_original do |tell, kind, shot, **data|
        order << data[:frame] if kind == "lit"
        tell.call(kind, shot, **data)
      end
      row = work(@workshop, @workshop.jobs.add("light", id, {quality: "draft", frame: 6}))
      expect(JSON.parse(row[:result])).to eq("lit" => 8)
      expect(order).to eq([6, 7, 8, 5, 4, 3, 2, 1])
      expect(lit).to eq([true] * 8)
      expect(JSON.parse(work(@workshop, @workshop.jobs.add("light", id, {quality: "draft"}))[:result])).to eq(
        "lit" => 0
      )
    end

    it "lights frames that are kept anew when the lamps change, by a run that computes nothing" do
      run_now(@workshop, id)
      @workshop.shots.edit(id, [set("sun-1", :strength, 0.2)])
      expect(lit).to eq([false] * 8)
      expect(run_now(@workshop, id)).to eq(computed: 0, kept: 8)
      expect(lit).to eq([true] * 8)
      @workshop.shots.undo(id)
      expect(lit).to eq([true] * 8)
    end

    it "refuses keys that are none" do
      good = ["a" * 32, "b" * 16]
      expect(views.path(*good)).to end_with("views/aa/#{good.join("-")}.gz")
      [[good[0], "x"], ["../x", good[1]], [nil, nil], ["A" * 32, good[1]]].each do |pair|
        expect(refusal { views.path(*pair) }).to match(["bad_path", /not the key of a frame/])
      end
    end
  end
end
