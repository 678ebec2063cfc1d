# frozen_string_literal: true

module Vumbral
  RSpec.describe "The shelf" do
    it "opens, duplicates and throws away shots, and takes in a saved one" do
      id = shelve(workshop, small_shot("Old mill"))
      visit house.url
      card = find("[data-shot='#{id}']")
      expect(card).to have_text("no print yet")
      card.click_button "Duplicate"
      expect(page).to have_css("[data-shot='old-mill-copy']")
      within("[data-shot='old-mill-copy']") do
        click_button "Throw away"
        click_button "No"
        click_button "Throw away"
        click_button "Yes"
      end
      expect(page).to have_no_css("[data-shot='old-mill-copy']")
      saved = File.join(house.home, "saved.json")
      File.write(saved, workshop.shots.document(id).renamed("Brought along").to_json)
      attach_file "Shot file", saved, make_visible: true
      expect(page).to have_css("[data-desk]", wait: 30)
      expect(page).to have_text("Brought along")
    end

    it "says what is wrong with a file, and nothing is made" do
      visit house.url
      broken = File.join(house.home, "broken.obj")
      File.write(broken, "v 0 0 0\nf 1 2 3\n")
      find("[data-new-shot]").click
      fill_in "name", with: "Never"
      attach_file "mesh", broken, make_visible: true
      find("[data-make]").click
      expect(page).to have_css("[role='alert']",
        text: "Line 2 of broken.obj has a face that uses point 2, but there are 1 points so far.", wait: 30)
      expect(workshop.shots.list.map { |row| row[:name] }).not_to include("Never")
      page.send_keys(:escape)
      newer = File.join(house.home, "newer.json")
      File.write(newer, '{"format":"vumbral-shot","version":9,"name":"x","nodes":[]}')
      attach_file "Shot file", newer, make_visible: true
      expect(page).to have_text("saved by a newer Vumbral")
    end

    it "leads back from a shot that is not there" do
      visit "#{house.url}/shots/nowhere"
      expect(page).to have_text("There is no shot \"nowhere\"")
      expect(page).to have_css("[data-new-shot]")
    end
  end
end
