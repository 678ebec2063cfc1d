# frozen_string_literal: true

require "vips"

module Vumbral
  RSpec.describe Studio::Reels do
    around { |example| with_workshop { |workshop| (@workshop = workshop) && example.run } }

    let(:id) { shelve(@workshop) }

    def reel = JSON.parse(work(@workshop, @workshop.reels.start(id)[:job])[:result])["reel"]

    it "shows what was run of a shot as it stands, as a picture that moves" do
      expect(@workshop.reels.start(id)).to eq({})
      run_now(@workshop, id)
      expect(@workshop.reels.made(id)).to be_nil
      name = reel
      moving = Vips::Image.new_from_file(@workshop.reels.path(id, name), n: -1)
      expect([moving.width, moving.get("page-height"), moving.get("n-pages")]).to eq([*described_class::SIZE, 8])
      expect(moving.get("delay").sum).to be_within(8).of(1000 * described_class::LENGTH)
      expect([@workshop.reels.made(id), @workshop.reels.start(id)]).to eq([name, {reel: name}])
      # A change asks for another, and one taken back has the one before.
      @workshop.shots.edit(id, [set("look", :thickness, 3.0)])
      expect(@workshop.reels.made(id)).to be_nil
      @workshop.shots.undo(id)
      expect(@workshop.reels.made(id)).to eq(name)
    end

    it "makes way for what somebody waits for, and goes on where it was" do
      run_now(@workshop, id)
      asked = @workshop.reels.start(id)
      expect(@workshop.reels.start(id)).to eq(asked)
      painted = []
      allow(@workshop.painting).to receive(:image).and_wrap_original { |original, document, frame, *rest, **options|
        painted << frame
        @workshop.prints.take(id, 3) if frame == 4
        original.call(document, frame, *rest, **options)
      }
      expect(work(@workshop, asked[:job])[:state]).to eq("queued")
      work(@workshop, @workshop.jobs.active(id).last[:id])
      expect(work(@workshop, asked[:job])[:state]).to eq("done")
      expect(painted).to eq([1, 2, 3, 4, 3, 5, 6, 7, 8])
    end

    it "refuses names of other files" do
      expect(refusal { @workshop.reels.path(id, "../x") }).to match(["bad_path", /not the name/])
      expect(refusal { @workshop.reels.make(id) }).to match(["not_run", /Nothing of this shot/])
    end
  end
end
