# frozen_string_literal: true

module Vumbral
  RSpec.describe "The shelf" do
    let(:name) { "Mill #{rand(1 << 30)}" }

    def card(id) = find("[data-shot='#{id}']")

    it "finds and orders, duplicates, takes away and puts back, lets go, and takes in a saved shot" do
      id = shelve(workshop, small_shot(name, edits: [set("general", :seed, rand(1000..1_000_000))]))
      visit house.url
      expect(card(id)).to have_text("no print yet")
      expect(card(id).find("[data-held]")).to have_text("8 frames, not run")
      card(id).click_button "Duplicate"
      expect(page).to have_css("[data-shot='#{id}-copy']")
      find("[data-seek]").send_keys("#{name} c")
      expect(page).to have_css("[data-shot]", count: 1)
      card("#{id}-copy").click_button "Take away"
      expect(page).to have_text("No shot is called")
      find("[data-said]").click_button "Put it back"
      expect(page).to have_css("[data-shot='#{id}-copy']")
      card("#{id}-copy").click_button "Take away"
      expect(page).to have_no_css("[data-shot='#{id}-copy']")
      find("[data-seek]").send_keys(:escape)
      find("[data-taken-away]").click
      within("[data-away='#{id}-copy']") do
        click_button "Let go for good"
        click_button "Keep it"
        click_button "Let go for good"
        click_button "Let it go"
      end
      expect(page).to have_no_css("[data-away='#{id}-copy']")
      expect(workshop.db[:shots][id: "#{id}-copy"]).to be_nil
      page.send_keys(:escape)

      shelve(workshop, small_shot("Abacus #{name}"))
      find("[data-seek]").send_keys(name)
      expect(page).to have_css("[data-shot]", count: 2)
      find("[data-order]").click
      find(".n-base-select-option", text: "By name").click
      expect(all("[data-shot] .name").map(&:text)).to eq(["Abacus #{name}", name])

      saved = File.join(house.home, "saved.json")
      File.write(saved, workshop.shots.document(id).renamed("Brought along").to_json)
      attach_file "Shot file", saved, make_visible: true
      expect(page).to have_css("[data-desk]", wait: 30)
      expect(page).to have_text("Brought along")
    end

    it "moves a card that is looked at, and tells what it keeps" do
      id = shelve(workshop, small_shot(name))
      workshop.runs.start(id, "draft")
      wait_for_draft(id)
      visit house.url
      expect(card(id).find("[data-held]")).to have_text(/8 frames, full · [\d.]+ [KM]B/)
      card(id).hover
      expect(card(id)).to have_css("img[data-reel]", wait: 60)
      eventually do
        expect(page.evaluate_script("document.querySelector('[data-reel]').naturalWidth")).to eq(Studio::Reels::SIZE[0])
      end
      find("h1").hover
      expect(page).to have_no_css("img[data-reel]")
    end

    it "says what is wrong with a file, and nothing is made" do
      visit house.url
      broken = File.join(house.home, "broken.obj")
      File.write(broken, "v 0 0 0\nf 1 2 3\n")
      find("[data-new-shot]").click
      expect(page).to have_css("[data-starter='fire']", text: /draft .* · full .* M voxels/)
      fill_in "name", with: "Never"
      attach_file "mesh", broken, make_visible: true
      expect(page).to have_css("[role='alert']",
        text: "Line 2 of broken.obj has a face that uses point 2, but there are 1 points so far.", wait: 30)
      expect(workshop.shots.list.map { |row| row[:name] }).not_to include("Never")
      page.send_keys(:escape)
      {
        "newer.json" => [
          '{"format":"vumbral-shot","version":9,"name":"x","nodes":[]}', "newer.json was saved by a newer Vumbral"
        ],
        "list.json" => [
          "shopping",
          "list.json is not JSON: it cannot be read from line 1, column 1 on, where it has \"shopping\". Bring a " \
            "file that Vumbral saved"
        ]
      }.each do |file, (text, sentence)|
        File.write(File.join(house.home, file), text)
        attach_file "Shot file", File.join(house.home, file), make_visible: true
        expect(page).to have_text(sentence)
      end
    end

    it "leads back from a shot that is not there" do
      visit "#{house.url}/shots/nowhere"
      expect(page).to have_text("There is no shot \"nowhere\"")
      expect(page).to have_css("[data-new-shot]")
    end
  end
end
