# frozen_string_literal: true

module Vumbral
  module ViewSpec
    FINISH = %i[track effect layer].freeze
  end

  RSpec.describe "The view" do
    # Each pixel of a view costs, and twice, and at that size the two are compared.
    before { page.current_window.resize_to(1040, 760) }
    after { page.current_window.resize_to(1180, 860) }

    # What a finish would do to the print, and of two props that stand in one place the second: a view makes neither.
    def beside(document) =
      document.nodes.each_value.select { |node| ViewSpec::FINISH.include?(node.kind.name) || node.id.start_with?("glazed") }

    # So many voxels along the longest side of what is run; larger ones of what is sculpted.
    def coarse(document)
      # The view has these as coarse as drafts do.
      sculpts =
        document.of(:sculpt).flat_map do |node|
          [set(node.id, :voxel, (1.5 * node[:voxel]).round(4)), set(node.id, :draft, 1.0)]
        end
      sculpts +
        {chamber: 26.0, liquid: 28.0}.filter_map do |kind, across|
          node = document.of(kind).first
          next unless node

          [set(node.id, :voxel, [node[:size].max / across, node[:voxel]].max.round(4)), set(node.id, :draft, 1.0)]
        end.flatten
    end

    # A demo shot with coarse voxels and no longer than the frame that is looked at.
    def demo(shot)
      id = workshop.shots.import(Studio::Starters.bare("#{shot::NAME} #{rand(1 << 30)}").to_json)[:id]
      workshop.shots.edit(id, Demo::Brought.new(workshop).edits(shot))
      document = workshop.shots.document(id)
      # What belongs to one goes with it.
      beside(document).sort_by { |node| ViewSpec::FINISH.index(node.kind.name) || ViewSpec::FINISH.size }.each do |node|
        there = workshop.shots.document(id).nodes.key?(node.id)
        workshop.shots.edit(id, [{"do" => "remove", "node" => node.id}]) if there
      end
      # Without a lens that blurs, one picture says what several would.
      camera = document.the(:camera)
      workshop.shots.edit(
        id,
        coarse(document) + [
          set("general", :last, shot::PRINT), set("picture", :grain, 0.0),
          set("camera", :refined, camera[:refined] && camera[:aperture].positive?)
        ]
      )
      id
    end

    # Small and without an edge, for lines of text lie along it.
    def small(image) = image.thumbnail_image(160, height: 90, size: :force).crop(6, 12, 148, 60)

    # Keys act once there is a view.
    def look_through
      eventually do
        page.send_keys("v")
        expect(page).to have_css("[data-camera][aria-pressed='true']", wait: 2)
      end
    end

    # @return [Float] how far view and print are apart, parts of full scale
    def apart(id, frame)
      page.send_keys(:end)
      look_through
      page.send_keys("l")
      # Fog is drawn by the view itself too.
      page.send_keys("d") if page.has_css?("[data-chip='develop'][aria-pressed='true']", wait: 1)
      expect(page).to have_no_css("[data-fog='coming']", wait: 60)
      expect(page).to have_no_css("[data-developed]")
      key = workshop.runs.state(id, "draft")[:rows].last[:key]
      eventually(180) { expect(find("[data-view]")["data-drawn"]).to start_with(key.to_s) }
      # Surfaces, foam and sculpts are made once they are looked at.
      eventually(60) { expect(workshop.jobs.active.reject { |job| job[:background] }).to be_empty }
      expect(page).to have_css("[data-view][data-props='stand']", wait: 60)
      # Each frame of what is keyed is lit for itself; the last that comes asks for the picture anew.
      eventually(60) do
        expect(find("[data-view]")["data-scale"]).to eq("1")
        sleep 1
        expect(find("[data-view]")["data-scale"]).to eq("1")
      end
      # Chips and figures lie over it, and no print has them.
      page.execute_script("document.head.append(Object.assign(document.createElement('style'), {textContent: arguments[0]}))",
        "[data-view] > :not(canvas) { visibility: hidden !important }")
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

    Demo::Maker::SHOTS.each do |shot|
      it "is within four percent of the print of #{shot::NAME}" do
        id = demo(shot)
        document = workshop.shots.document(id)
        unless workshop.runs.still?(document) && !workshop.liquids.any?(document)
          workshop.runs.start(id, "draft")
          eventually(240) { expect(workshop.runs.state(id, "draft")[:rows].last).to include(state: "fresh") }
        end
        open_desk(id)
        expect(apart(id, shot::PRINT)).to be < 0.04
      end
    end
  end
end
