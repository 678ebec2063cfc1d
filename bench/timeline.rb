# frozen_string_literal: true

# How the timeline of a large shot moves: 500 rows with 5,000 keys, all of them picked and dragged. Prints how many
# frames a second the browser draws while a hand drags, and what the server takes to answer the drag's end.
require_relative "../lib/vumbral"
require "capybara/dsl"
require "selenium-webdriver"
require "rspec/core"
require "rspec/expectations"
require_relative "../spec/support/shots"
require_relative "../spec/support/browser"

module Vumbral
  # Drives the desk like the browser specs do.
  class TimelineBench
    include Capybara::DSL
    include RSpec::Matchers
    include Shots
    include Browser

    ROWS, KEYS = 500, 10
    DRAG = <<~JS
      const done = arguments[arguments.length - 1];
      const key = document.querySelector("[data-timeline-key]");
      const box = key.getBoundingClientRect();
      const send = (kind, x) => key.dispatchEvent(new PointerEvent(kind, {bubbles: true, pointerId: 7, button: 0, clientX: x, clientY: box.y + 8}));
      key.setPointerCapture = () => {};
      const times = [];
      send("pointerdown", box.x + 12);
      let n = 0;
      function step(now) {
        times.push(now);
        send("pointermove", box.x + 12 + 40 * Math.sin(n / 12));
        if (++n < 120) return requestAnimationFrame(step);
        send("pointermove", box.x + 12 + 30);
        send("pointerup", box.x + 12 + 30);
        done(times);
      }
      requestAnimationFrame(step);
    JS

    def run
      edits = (1..ROWS).map do |n|
        keys = (0...KEYS).map { |k| {"frame" => 2 + k * 9 + n % 7, "value" => ((n * k) % 13) / 6.0} }
        {
          "do" => "add",
          "kind" => "source",
          "id" => "puff-#{n}",
          "name" => "Puff #{n}",
          "dials" => {
            "prop" => "prop-1"
          },
          "keys" => {
            "strength" => keys
          }
        }
      end
      id = shelve(workshop, small_shot("Many rows", edits: [set("general", :last, 110), *edits]))
      open_desk(id)
      expect(page).to have_css("[data-timeline-key]", wait: 30)
      sleep 5
      find(".timeline").send_keys([:control, "a"])
      expect(page).to have_css("[data-picked]", text: "#{ROWS * KEYS} keys", wait: 20)
      first = -> { workshop.shots.document(id).node("puff-1").keyed(:strength).keys[0].frame }
      before = first.call
      stamps = page.evaluate_async_script(DRAG)
      began = Process.clock_gettime(Process::CLOCK_MONOTONIC)
      sleep 0.01 until first.call != before || Process.clock_gettime(Process::CLOCK_MONOTONIC) - began > 20
      gaps = stamps.each_cons(2).map { |a, b| b - a }.sort
      puts "#{ROWS} rows, #{ROWS * KEYS} keys: #{(1000.0 / gaps[gaps.size / 2]).round(1)} frames a second (median), " \
        "slowest gap #{gaps.last.round} ms"
      puts "dropped: the server has it after #{(Process.clock_gettime(Process::CLOCK_MONOTONIC) - began).round(2)} s"
    ensure
      Browser.stop
    end
  end
end

Capybara.default_driver = :chromium
Capybara.run_server = false
Vumbral::TimelineBench.new.run
