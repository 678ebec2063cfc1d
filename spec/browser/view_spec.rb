# frozen_string_literal: true

module Vumbral
  RSpec.describe "The view" do
    # A demo shot with coarse voxels and no longer than the frame that is looked at.
    def demo(shot, voxel)
      id = workshop.shots.import(Studio::Starters.bare("#{shot::NAME} #{rand(1 << 30)}").to_json)[:id]
      workshop.shots.edit(id, Demo::Brought.new(workshop).edits(shot))
      workshop.shots.edit(
        id,
        [
          set("chamber", :voxel, voxel), set("chamber", :draft, 1.0), set("general", :last, shot::PRINT),
          set("picture", :grain, 0.0)
        ]
      )
      id
    end

    # Small and without an edge, for lines of text lie along it.
    def small(image) = image.thumbnail_image(160, height: 90, size: :force).crop(6, 12, 148, 60)

    # @return [Float] how far view and print are apart, parts of full scale
    def apart(id, frame)
      page.send_keys(:end)
      page.send_keys("v")
      page.send_keys("l")
      # Fog is drawn by the view itself too.
      page.send_keys("d") if page.has_css?("[data-chip='develop'][aria-pressed='true']", wait: 1)
      expect(page).to have_no_css("[data-fog='coming']", wait: 60)
      expect(page).to have_no_css("[data-developed]")
      eventually(60) { expect(find("[data-view]")["data-scale"]).to eq("1") }
      view = view_pixels
      width, height = view.width & ~1, view.height & ~1
      number =
        JSON.parse(workshop.db[:jobs][id: finished(workshop.prints.take(id, frame, size: [width, height]))][:result])[
          "number"
        ]
      print = Vips::Image.new_from_file(workshop.prints.path(id, number))
      (small(view.crop(0, 0, width, height).copy_memory) - small(print)).abs.avg / 255.0
    end

    def finished(job)
      eventually(60) { expect(workshop.jobs.fetch(job)[:state]).to eq("done") }
      job
    end

    {Demo::KilnDraw => 0.16, Demo::LidBurst => 0.2, Demo::MorningYard => 0.08}.each do |shot, voxel|
      it "is within four percent of the print of #{shot::NAME}" do
        id = demo(shot, voxel)
        workshop.runs.start(id, "draft")
        eventually(150) { expect(workshop.runs.state(id, "draft")[:rows].last).to include(state: "fresh", lit: true) }
        open_desk(id)
        expect(apart(id, shot::PRINT)).to be < 0.04
      end
    end
  end
end
