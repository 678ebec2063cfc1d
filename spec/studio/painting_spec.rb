# frozen_string_literal: true

module Vumbral
  RSpec.describe Studio::Painting do
    around { |example| with_workshop { |workshop| (@workshop = workshop) && example.run } }

    let(:id) { shelve(@workshop).tap { |id| run_now(@workshop, id) } }
    let(:key) { @workshop.runs.best(id, 6)[1] }

    def document(edits) = edits.reduce(@workshop.shots.document(id)) { |made, edit| Shot::Edits.apply(made, [edit])[0] }

    def paint(*edits, size: [48, 27], painting: @workshop.painting)
      renderer, image = painting.image(document(edits), 6, key, size)
      renderer.develop(image).bytes
    end

    # The same by somebody who has kept nothing.
    def anew(*edits) = paint(*edits, painting: described_class.new(@workshop))

    it "lights a frame once for pictures of every size, from every side and on every film" do
      # The run lights its frames for the view.
      key
      expect(Light::Lit).to receive(:new).once.and_call_original
      paint
      paint(size: [32, 18])
      paint(set("camera", :position, [2.0, 1.0, 4.0]))
      paint(set("picture", :exposure, 1.5), set("sky", :fade, 12.0), set("camera", :focal, 60.0))
    end

    it "lights it anew when what lights it has changed, and always shows the same as if nothing were kept" do
      changes = [
        [], [set("sun-1", :around, 20.0)], [set("look", :thickness, 3.0)], [set("prop-1", :position, [0.0, 0.6, 0.0])],
        [set("picture", :between, "straight")], [set("camera", :shutter, 180.0), set("camera", :samples, 2)], []
      ]
      changes.each { |edits| expect(paint(*edits)).to eq(anew(*edits)) }
    end

    it "lets go of what was not asked for longest when there is too much" do
      stub_const("#{described_class}::MEMORY", 1 << 20)
      paint
      one = @workshop.painting.instance_variable_get(:@kept).values[0].bytesize
      stub_const("#{described_class}::MEMORY", (2.5 * one).to_i)
      3.times { |n| paint(set("look", :thickness, 5.0 + n)) }
      kept = @workshop.painting.instance_variable_get(:@kept)
      expect(kept.size).to eq(2)
      expect(kept.keys.map { |_, lit_by| lit_by["rig"]["thickness"] }).to eq([6.0, 7.0])
    end
  end
end
