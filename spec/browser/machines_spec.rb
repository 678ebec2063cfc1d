# frozen_string_literal: true

module Vumbral
  RSpec.describe "Other machines" do
    before { workshop.db[:machines].delete }

    after { workshop.db[:machines].delete }

    # Heard of for as long as this goes on.
    def anvil(**facts)
      row = workshop.machines.welcome(FarmHelp::MACHINE.merge("id" => "0123456789ab"))
      workshop.db[:machines].where(id: row[:id]).update(seen_at: Time.now.to_f + 600, **facts)
      row[:id]
    end

    it "says how another machine helps, and lists those that do" do
      visit "#{house.url}/work"
      expect(find("[data-alone]")).to have_text("bin/vumbral worker --server #{house.url} --token TOKEN")
      anvil
      within("[data-machine='Anvil']") do
        expect(page).to have_text("waits for work")
        expect(page).to have_text("2 cores")
        expect(page).to have_text("1.00 million voxels/s")
      end
      expect(all("[data-machine]").size).to eq(2)
    end

    it "pauses one, has it go on, and lets it go" do
      id = anvil(trouble: "Its disk is full.")
      visit "#{house.url}/work"
      expect(find("[data-machine='Anvil']")).to have_text("Its disk is full.")
      find("[data-pause]").click
      expect(page).to have_css("[data-machine='Anvil'][data-state='paused']")
      expect(workshop.machines.fetch(id)[:paused]).to be(true)
      find("[data-go-on]").click
      expect(page).to have_css("[data-machine='Anvil'][data-state='working']")
      find("[data-let-go]").click
      expect(page).to have_css("[data-alone]")
    end

    it "shows what one does, and what it did" do
      id = anvil
      job = workshop.jobs.add("print", shelve(workshop, small_shot("Hammered")), {})
      workshop.db[:jobs].where(id: job).update(
        state: "running", machine: id, lease: Time.now.to_f + 600, started_at: Time.now.to_f
      )
      visit "#{house.url}/work"
      expect(find("[data-machine='Anvil']")).to have_text("Print of Hammered")
      expect(find("[data-job='#{job}']")).to have_text("on Anvil")
      workshop.jobs.finish(job)
      find("[data-job='#{job}'][data-state='done'] .what").click
      expect(find("[data-job='#{job}'] .log")).to have_text("Done on\nAnvil")
    end

    it "takes how much is made twice" do
      anvil
      visit "#{house.url}/work"
      find("[data-twice]").click
      find(".n-base-select-option", text: /\A5 %\z/).click
      eventually { expect(workshop.foreman.share_twice).to eq(0.05) }
      workshop.foreman.twice = 0
    end
  end
end
