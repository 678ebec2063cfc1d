# frozen_string_literal: true

module Vumbral
  # Shots and data folders to try things on.
  module Shots
    # A small shot that runs in a moment: a sphere that smokes, eight frames.
    def small_shot(name = "Little puff", edits: [])
      document = Studio::Starters.build("plume", name)
      small =
        [
          ["general", "last", 8], ["chamber", "size", [1.0, 1.4, 1.0]], ["chamber", "voxel", 0.07],
          ["chamber", "draft", 1.0], ["picture", "width", 96], ["picture", "height", 54],
          # As plain as can be.
          ["detail", "on", false], ["source-1", "breakup", 0.6], ["source-1", "breakup_size", 0.25],
          ["look", "thickness", 60.0],
          ["camera", "position", [0.0, 1.0, 6.6]], ["camera", "target", [0.0, 1.6, 0.0]]
        ].map { |node, dial, value| {"do" => "set", "node" => node, "dial" => dial, "value" => value} }
      Shot::Edits.apply(document, small + edits)[0]
    end

    def set(node, dial, value) = {"do" => "set", "node" => node, "dial" => dial.to_s, "value" => value}

    # @yield [Studio::Workshop] on a folder that is gone afterwards
    def with_workshop
      Dir.mktmpdir { |home| yield Studio::Workshop.new(home) }
    end

    # Puts a document on the shelf. @return [String] its id
    def shelve(workshop, document = small_shot) = workshop.shots.import(document.to_json)[:id]

    # Carries out a job here and gives its row back.
    def work(workshop, job)
      Studio::Worker.new(workshop).run_one(job)
      # Where a server runs, a worker of its own may have been quicker.
      until_end = Time.now + 120
      sleep 0.05 while workshop.jobs.fetch(job)[:state] == "running" && Time.now < until_end
      workshop.jobs.fetch(job)
    end

    def run_now(workshop, id, quality = "draft", **options)
      row = work(workshop, workshop.runs.start(id, quality, **options)[:job_id])
      raise row[:error] || row[:state] unless row[:state] == "done"

      JSON.parse(row[:result], symbolize_names: true)
    end

    # What is refused, as its code and sentence.
    def refusal
      yield
      nil
    rescue Refused => error
      [error.code, error.message]
    end
  end
end
