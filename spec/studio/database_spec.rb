# frozen_string_literal: true

module Vumbral
  RSpec.describe Studio::Database::Changes do
    it "tells of what anybody wrote since it was last asked, and of nothing else" do
      with_workshop do |workshop|
        changes = described_class.new(workshop.home.database)
        expect(changes.any?).to be(true)
        expect([changes.any?, changes.any?]).to eq([false, false])
        id = shelve(workshop)
        expect([changes.any?, changes.any?]).to eq([true, false])
        workshop.shots.fetch(id)
        expect(changes.any?).to be(false)
        # Another process, as another workshop.
        Studio::Workshop.new(workshop.home.path).events.tell("shots", id)
        expect([changes.any?, changes.any?]).to eq([true, false])
      end
    end
  end

  RSpec.describe Studio::Worker do
    it "asks for work where anything was written, and else now and then for those who died" do
      with_workshop do |workshop|
        news = [true, false, false, true] + Array.new(10_000, false)
        allow(Studio::Database::Changes).to receive(:new)
          .and_return(instance_double(Studio::Database::Changes).tap { |one|
                        allow(one).to receive(:any?) { news.shift }
                      })
        worker = described_class.new(workshop)
        allow(workshop.jobs).to receive(:queued?).and_return(true, false)
        asked = []
        allow(workshop.jobs).to receive(:claim) {
          asked << 10_003 - news.size
          worker.stop if asked.size == 3
          nil
        }
        worker.run
        # What was written as the fourth was no work for it.
        expect(asked[0]).to eq(0)
        expect(asked[1]).to be > 4
      end
    end
  end
end
