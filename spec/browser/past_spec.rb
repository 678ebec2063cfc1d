# frozen_string_literal: true

module Vumbral
  RSpec.describe "What was tried before" do
    before(:context) do
      @id = workshop.shots.import(small_shot("Two runs", edits: [set("source-1", :smoke, 3.0)]).to_json)[:id]
      2.times do |n|
        workshop.shots.edit(@id, [set("source-1", :smoke, 12.0)]) if n == 1
        job = workshop.runs.start(@id, "draft")[:job_id]
        eventually(60) { expect(workshop.jobs.fetch(job)[:state]).to eq("done") }
      end
    end

    # The order of the examples is not to matter.
    before { workshop.shots.edit(@id, [set("source-1", :smoke, 12.0)]) }

    def smoke = workshop.shots.document(@id).node("source-1")[:smoke]

    def open_runs
      open_desk(@id)
      find("[data-side='runs']").click
      expect(page).to have_css("[data-run='1']")
    end

    it "plays two runs together in one camera: wiped, beside each other, blinking, and by their difference" do
      open_runs
      go_to 8
      find("[data-run='1']").click
      expect(find("[data-run-viewer]")).to have_text(/8 of 8 frames are here.*Smoke/m)
      find("[data-lay-against]").click
      expect(page).to have_css("[data-compare][data-painted='8 2']", text: "as it stands", wait: 60)
      wiped = view_pixels
      # To the left is the shot, to the right the run.
      find("[data-run-line]").send_keys(:end)
      eventually { expect(find("[data-run-line]")["aria-valuenow"]).to eq("100") }
      alone = view_pixels
      right, left =
        [[0.5, 0.45], [0.02, 0.45]].map do |from, wide|
          (wiped - alone)
            .abs
            .crop((alone.width * from).round, alone.height / 5, (alone.width * wide).round, alone.height / 2)
            .avg
        end
      expect(right).to be > 3 * left
      find("[data-against='difference']").click
      eventually { expect(view_pixels.crop(20, 100, 60, 100).avg).to be < 4 }
      %w[blink beside].each { |way| find("[data-against='#{way}']").click }
      # Both go along when it plays, and a drag turns both.
      find("[data-play]").click
      eventually(60) { expect(find("[data-compare]")["data-painted"]).to match(/\A[3-7] 2\z/) }
      stop_playing
      expect(page).to have_css("[data-compare][data-painted$=' 2']", wait: 60)
      page.send_keys(:escape)
      expect(page).to have_no_css("[data-compare]")
    end

    it "brings a run's settings back, keeps it under a name, and places it in the shot again" do
      open_runs
      find("[data-run='1']").click
      find("[data-keep-run]").click
      field = find("[data-said-name]")
      field.send_keys([:control, "a"], "The thin one", :enter)
      eventually { expect(workshop.caches.list(@id)[0]).to include(name: "The thin one") }
      expect(page).to have_css("[data-run='1']", text: "The thin one")
      find("[data-bring-run-back]").click
      eventually { expect(smoke).to eq(3.0) }
      page.send_keys([:control, "z"])
      eventually { expect(smoke).to eq(12.0) }
      find("[data-run='1']").click
      find("[data-place-run]").click
      eventually { expect(workshop.shots.document(@id).of(:sculpt).map(&:name)).to eq(["The thin one"]) }
      expect(page).to have_css("[data-dial$='.plays']")
      page.send_keys([:control, "z"])
      eventually { expect(workshop.shots.document(@id).of(:sculpt)).to be_empty }
      visit "#{house.url}/work"
      # Other shots may have kept runs.
      find("[data-cache='#{workshop.caches.list(@id)[0][:digest]}'] input").click
      find("[data-hand-on]").click
      eventually(60) { expect(workshop.exports.list(@id).map { |row| row[:files].size }).to eq([8]) }
    end

    it "tells the history as a tree with pictures, and goes to any point" do
      open_desk(@id)
      page.send_keys("h")
      points = all("[data-point]", minimum: 2)
      expect(page).to have_css("[data-point] img")
      points[-1].click
      expect(find("[data-history]")).to have_text("What is different there")
      find("[data-go-there]").click
      eventually { expect(smoke).to eq(3.0) }
      all("[data-point]")[0].double_click
      eventually { expect(smoke).to eq(12.0) }
    end

    it "finds prints, things, runs and what can be done in one field" do
      open_desk(@id)
      {
        "history" => "[data-history]", "draft run 1" => "[data-run-viewer]", "keys" => "[aria-label='Keys']"
      }.each do |words, place|
        page.send_keys("/")
        expect(page).to have_css("[role='dialog'] input:focus")
        page.send_keys(words)
        find("[data-find]", match: :first)
        page.send_keys(:enter)
        expect(page).to have_css(place)
        page.send_keys(:escape)
        expect(page).to have_no_css("[role='dialog']")
      end
      page.send_keys("/")
      expect(page).to have_css("[role='dialog'] input:focus")
      page.send_keys("ember bowl", :enter)
      expect(page).to have_css("[data-node='prop-1'].open")
    end

    it "tells a frame that only lacks its finer detail, and makes that" do
      id = workshop.shots.import(small_shot("Finer").to_json)[:id]
      job = workshop.runs.start(id, "draft")[:job_id]
      eventually(60) { expect(workshop.jobs.fetch(job)[:state]).to eq("done") }
      workshop.shots.edit(id, [set("detail", :on, true)])
      key = Gas::Detail.keys(workshop.runs.plan(id, "draft"))[8]
      open_desk(id)
      expect(page).to have_css(".notice", text: "without its finer detail")
      find(".notice .link", text: "Make it").click
      eventually(60) { expect(workshop.frames.frame?(key)).to be(true) }
      expect(page).to have_no_css(".notice")
      expect(page).to have_text("2 times finer")
    end

    it "makes a movie of the view" do
      skip "ffmpeg is not here" unless Studio::Movie.there?
      open_desk(@id)
      find("[data-clip-view]").click
      made =
        eventually(90) do
          Dir[File.join(house.home, "clips", "*.mp4")].grep(/\h{16}\.mp4\z/).tap { |all| expect(all).not_to be_empty }
        end
      told = `ffprobe -v error -count_frames -select_streams v -show_entries stream=nb_read_frames,r_frame_rate -of csv=p=0 #{made[0]}`
      expect(told).to include("24/1").and include(",8")
    end

    it "runs a live draft while a dial is dragged, and the shot's own when it is let go" do
      open_desk(@id)
      find("[data-chip='live']").click
      number = find("[data-dial='source-1.smoke'] [role='spinbutton']")
      hand = page.driver.browser.action
      hand.move_to(number.native).click_and_hold.move_by(20, 0).move_by(15, 0).perform
      eventually(60) { expect(workshop.db[:events].where(kind: "live", shot_id: @id).count).to be >= 8 }
      expect(page).to have_css("[data-play][aria-label='Stop']")
      page.driver.browser.action.release.perform
      eventually { expect(smoke).not_to eq(12.0) }
      eventually(60) do
        expect(workshop.runs.state(@id, "draft")[:rows].map { |row| row[:state] }.uniq).to eq(["fresh"])
      end
      eventually { expect(workshop.db[:jobs].where(kind: "live").count).to eq(0) }
      find("[data-chip='live']").click
    end
  end

  RSpec.describe "A charge in a jar that is open to one side" do
    # Four walls, a floor and a lid of clay; nothing towards +x.
    def jar
      walls = {
        "back" => [[0.06, 0.6, 0.6], [-0.33, 0.5, 0.0]], "left" => [[0.6, 0.6, 0.06], [0.0, 0.5, -0.33]],
        "right" => [[0.6, 0.6, 0.06], [0.0, 0.5, 0.33]], "floor" => [[0.72, 0.06, 0.72], [0.0, 0.17, 0.0]],
        "lid" => [[0.72, 0.06, 0.72], [0.0, 0.83, 0.0]]
      }
      walls.map do |name, (size, place)|
        {
          "do" => "add",
          "kind" => "prop",
          "id" => name,
          "name" => "Jar #{name}",
          "dials" => {
            "shape" => "box", "size" => size, "position" => place, "collider" => true
          }
        }
      end
    end

    def charge
      [
        set("prop-1", :radius, 0.12), set("prop-1", :position, [-0.1, 0.5, 0.0]), set("prop-1", :shown, false),
        set("chamber", :size, [2.4, 1.2, 1.2]), set("chamber", :position, [0.6, 0.0, 0.0]), set("chamber", :lift, 0.2),
        set("general", :last, 10), set("source-1", :temperature, 320.0)
      ]
    end

    # How far the smoke reaches along x, metres.
    def reach(number)
      key = JSON.parse(workshop.past_runs.fetch(@id, number)[:keys])[9]
      bricks, head = workshop.frames.read(key)
      smoke = bricks.field(:smoke)
      far = smoke.to_a.each_index.select { |n| smoke.to_a[n] > 0.01 }.map { |n| n % smoke.dim(2) }.max
      head["corner"][0] + (far + 1) * head["voxel"]
    end

    def push_and_run(value, number)
      type("source-1.push", value)
      find("[data-run-draft]").click
      eventually(90) do
        expect(workshop.past_runs.list(@id).find { |run| run[:number] >= number && run[:there] == 10 }).not_to be_nil
      end
      eventually(60) { expect(workshop.jobs.active(@id).select { |job| job[:kind] == "run" }).to be_empty }
    end

    it "is driven by pressure, which is raised by a factor and again; of several puffs two are kept" do
      @id = workshop.shots.import(small_shot("Jar #{rand(1 << 30)}", edits: charge + jar).to_json)[:id]
      open_desk(@id)
      # Off at the latest at frame 8.
      {1 => 1, 7 => 1, 8 => 0}.each do |frame, value|
        go_to frame
        type("source-1.strength", value)
        unless dial("source-1.strength").has_css?(".key.here", wait: 1)
          dial("source-1.strength").find("[data-key]").click
        end
      end
      push_and_run(4, 1)
      first = workshop.runs.latest(@id)[:number]
      push_and_run(60, first + 1)
      second = workshop.runs.latest(@id)[:number]
      # It leaves by the open side, and the farther the more it is pressed.
      expect(reach(second)).to be > [reach(first) + 0.15, 0.36].max

      find("[data-side='runs']").click
      find("[data-run='#{first}']").click(:shift)
      expect(page).to have_css("[data-compare][data-painted$=' 2']", wait: 60)
      find("[data-compare-end]").click

      find("[data-dial='source-1.push'] .label").right_click
      find("[data-axis] input", match: :first).send_keys([:control, "a"], "4, 60, 200")
      expect(page).to have_css("[data-strip-forecast]", text: "3 variations of 10 frames", wait: 20)
      find("[data-run-strip]").click
      eventually(120) { expect(find("[data-strip-state]").text).to include("3 done") }
      [1, 2].each do |n|
        all("[data-tile]")[n].click
        find("[data-mark-cell]").click
        eventually { expect(workshop.strips.show(@id, 1)[:marked]).to include(n) }
      end
      find("[data-keep-marked]").click
      eventually { expect(workshop.caches.list(@id).map { |cache| cache[:name] }).to match_array [/60/, /200/] }
    end
  end
end
