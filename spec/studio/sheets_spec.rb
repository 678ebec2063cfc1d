# frozen_string_literal: true

require "vips"

module Vumbral
  RSpec.describe Studio::Sheets do
    around { |example| with_workshop { |workshop| (@workshop = workshop) && example.run } }

    let(:id) { shelve(@workshop) }

    def sheet(*given, **options) = JSON.parse(work(@workshop, @workshop.sheets.start(id, *given,
      **options))[:result], symbolize_names: true)

    it "puts frames on one page with their figures, spread over what was run where nobody says which" do
      run_now(@workshop, id)
      made = sheet(size: [64, 36])
      expect(made[:frames].map { |row| row[:frame] }).to eq((1..8).to_a)
      expect(made[:frames]).to all(include(:bright, :dark, :peak, quality: "full"))
      page = Vips::Image.new_from_file(@workshop.sheets.path(id, made[:sheet]))
      expect(page.width).to be_between(3 * 64, 3 * 64 + 30)
      expect(sheet([2, 7])[:frames].size).to eq(2)
    end

    it "lets the oldest go, and all of them with the shot" do
      @workshop.shots.fetch(id)
      stub_const("#{described_class}::KEPT", 2)
      names =
        Array.new(3) do |n|
          @workshop.sheets.keep(id, "picture #{n}").tap { |name| File.utime(n, n, @workshop.sheets.path(id, name)) }
        end
      names << @workshop.sheets.keep(id, "one more")
      expect(names.map { |name| File.exist?(@workshop.sheets.path(id, name)) }).to eq([false, false, true, true])
      @workshop.shots.take_away(id)
      @workshop.shots.let_go(id)
      expect(Dir.exist?(@workshop.home.within("sheets", id))).to be(false)
    end

    it "refuses what makes no sheet, in a sentence" do
      expect(refusal { @workshop.sheets.start(id) }).to match(["not_run",
        /No frame has been run since the last change/])
      run_now(@workshop, id)
      expect(refusal { @workshop.sheets.start(id, "all") }).to match(["bad_value", /list of whole numbers/])
      expect(refusal { @workshop.sheets.start(id, [3, 99]) }).to match(["no_frame", /from 1 to 8/])
      expect(refusal { @workshop.sheets.start(id, [3], size: [4, 4]) }).to match(["out_of_range", /16 to 1920 pixels/])
      expect(refusal { @workshop.sheets.path(id, "../x") }).to match(["bad_path", /not the name of a sheet/])
    end

    it "measures a frame's light with blur or without" do
      run_now(@workshop, id)
      measure = lambda {
        JSON.parse(work(@workshop, @workshop.jobs.add("meter", id, {frame: 6}))[:result])["exposure"]
      }
      plain = measure.call
      expect(plain).to be_between(-4.0, 4.0)
      @workshop.shots.edit(id, [set("camera", :shutter, 180.0), set("camera", :aperture, 1.0)])
      expect(measure.call).to eq(plain)
      @workshop.shots.edit(id, [set("sun-1", :strength, 0.0), set("sky", :strength, 0.0), set("look", :fire, 0.0)])
      expect(measure.call).to eq(0.0).or be > 2.0
    end
  end
end
