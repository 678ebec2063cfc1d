# frozen_string_literal: true

module Vumbral
  RSpec.describe Studio::Clips do
    around { |example| with_workshop { |workshop| (@workshop = workshop) && example.run } }

    def sent(count, bytes = nil)
      Array.new(count) do |n|
        bytes ||= Vips::Image.black(64, 36, bands: 3).linear(1, 40 * n).cast(:uchar).jpegsave_buffer
        "picture-#{n}".tap { |name| @workshop.home.write(@workshop.home.within("incoming", name), bytes) }
      end
    end

    def left = Dir[@workshop.home.within("incoming", "*")]

    it "puts pictures together as a movie, and lets them go" do
      skip "ffmpeg is not here" unless Studio::Movie.there?
      job = work(@workshop, @workshop.clips.start(sent(5), 24))
      name = JSON.parse(job[:result])["clip"]
      expect(File.size(@workshop.clips.path(name))).to be > 500
      expect(left).to be_empty
    end

    it "refuses what is no picture, what was lost, and rates that no movie has" do
      skip "ffmpeg is not here" unless Studio::Movie.there?
      expect(work(@workshop, @workshop.clips.start(sent(2, "no picture"), 24))[:error]).to include "no JPEG"
      expect(work(@workshop, @workshop.clips.start(["gone"], 24))[:error]).to include "was lost"
      expect(refusal { @workshop.clips.start([], 24) }[0]).to eq "out_of_range"
      expect(refusal { @workshop.clips.start(["a"], 0) }[1]).to include "1 to 240"
      expect(refusal { @workshop.clips.path("../../etc") }[0]).to eq "bad_path"
      expect(left).to be_empty
    end
  end
end
