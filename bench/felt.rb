# frozen_string_literal: true

# How quick the desk feels, driven in a headless browser with software drawing: shelf and desk until they stand,
# pictures a second while playing and of a live draft, a dial's way to the first fresh frame, and a paused frame's to
# its whole resolution. Takes any number of checkouts (this one by default), measured in turn, so that one change can be
# held against another:
#   ruby bench/felt.rb [FOLDER ...]
ENV["BUNDLE_WITHOUT"] = ""
require_relative "support"
require "selenium-webdriver"
require "socket"
require "tmpdir"

module Vumbral
  # One checkout with its server and a browser.
  class Felt
    FLAGS = %w[--headless=new --no-sandbox --enable-unsafe-swiftshader --hide-scrollbars --window-size=1280,900].freeze

    def initialize(root)
      @root = root
      @home = Dir.mktmpdir
      @port = TCPServer.open("127.0.0.1", 0) { |server| server.addr[1] }
      log = File.join(@home, "server.log")
      Bundler.with_unbundled_env do
        @pid =
          Process.spawn(
            File.join(root, "bin", "vumbral"), "serve", "--home", @home, "--port", @port.to_s, out: log, err: log
          )
      end
      sleep 0.1 until File.read(log).include?("Vumbral is at")
      options = Selenium::WebDriver::Chrome::Options.new(binary: "/usr/bin/chromium", args: FLAGS)
      @browser =
        Selenium::WebDriver.for(
          :chrome, options: options, service: Selenium::WebDriver::Service.chrome(path: "/usr/bin/chromedriver")
        )
      @browser.manage.timeouts.script_timeout = 60
      @browser.execute_cdp("Page.enable")
      @browser.execute_cdp("Page.addScriptToEvaluateOnNewDocument", source: STANDS)
    end

    # Notes when the shelf's cards and the desk stand, by the page's own clock.
    STANDS = <<~JS
      new MutationObserver(() => {
        for (const part of ["shot", "desk"]) if (!window["stood_" + part] && document.querySelector(`[data-${part}]`)) window["stood_" + part] = performance.now();
      }).observe(document, {subtree: true, childList: true});
    JS

    def call
      shot = make
      {"shelf stands, s" => appears("/", "shot"), "desk stands, s" => appears("/shots/#{shot}", "desk"),
       "animation frames a second, nothing shown" => playing(hide: true),
       "pictures a second, first time round" => playing, "third time round" => sleep(4) && playing && playing,
       "dial to first fresh frame drawn, s" => dial(shot),
       "paused frame of 57 x 77 x 57 whole, s" => paused(make([2.0, 2.7, 2.0], 0.035)),
       "paused frame of a fire of 45 x 73 x 45, finer, whole, s" => paused(make([0.5, 0.8, 0.5], 0.011, "fire")),
       "pictures a second, live draft of 32 cubed" => live(make([1.6, 1.6, 1.6], 0.05))}
    end

    def close
      @browser.quit
      Process.kill(:TERM, @pid)
      Process.wait(@pid)
      FileUtils.rm_rf(@home)
    end

    private

    def url = "http://127.0.0.1:#{@port}"

    # A plume of 20 × 27 × 20 voxels, or what is given in metres, run.
    def make(size = [2.0, 2.7, 2.0], voxel = 0.1, starter = "plume")
      shot = ask("/shots", name: "Felt", starter: starter)["id"]
      dials = {"general" => {"last" => 48}, "chamber" => {"size" => size, "voxel" => voxel, "draft" => 1.0},
               "detail" => {"on" => starter != "plume"}}
      ask(
        "/shots/#{shot}/edits",
        edits:
          dials.flat_map { |node, all| all.map { |dial, value| {do: "set", node: node, dial: dial, value: value} } }
      )
      job = ask("/shots/#{shot}/runs", quality: "draft")["job"]
      sleep 0.2 until ask("/jobs/#{job}")["state"] == "done"
      shot
    end

    def ask(path, body = nil)
      uri = URI("#{url}/api#{path}")
      text =
        body ? Net::HTTP.post(uri, JSON.generate(body), "content-type" => "application/json").body : Net::HTTP.get(uri)
      JSON.parse(text)
    end

    def appears(path, part)
      times = Array.new(3) do
        @browser.get("about:blank")
        @browser.get(url + path)
        sleep 0.1 until (found = @browser.execute_script("return window.stood_#{part}"))
        sleep 2
        found / 1000.0
      end
      times.sort[1].round(2)
    end

    # Counts for four seconds: animation frames where nothing is shown, else how often another frame stood in the view.
    COUNT = <<~JS
      const done = arguments[1], hide = arguments[0];
      const view = document.querySelector("[data-view]");
      let ticks = 0, shown = 0, last = view.dataset.drawn;
      const began = performance.now();
      (function tick() {
        ticks += 1;
        if (view.dataset.drawn !== last) { shown += 1; last = view.dataset.drawn; }
        const passed = (performance.now() - began) / 1000;
        passed < 4 ? requestAnimationFrame(tick) : done((hide ? ticks : shown) / passed);
      })();
    JS

    def playing(hide: false)
      chips =
        @browser
          .find_elements(css: "[data-chip='smoke'], [data-chip='fire']")
          .select { |chip| hide == (chip.attribute("aria-pressed") == "true") }
      chips.each(&:click)
      sleep 1
      play = @browser.find_element(css: "[data-play]")
      play.click unless play.attribute("aria-label") == "Stop"
      count = @browser.execute_async_script(COUNT, hide)
      @browser.find_element(css: "[data-play]").click
      count.round(1)
    end

    # From a dial that is let go on the first frame to that frame, fresh, in the view.
    DRAWN = <<~JS
      const done = arguments[0];
      const view = document.querySelector("[data-view]"), before = view.dataset.drawn;
      const number = document.querySelector("[data-dial='source-1.smoke'] [role='spinbutton']");
      const began = performance.now();
      number.focus();
      number.dispatchEvent(new KeyboardEvent("keydown", {key: "ArrowUp", bubbles: true}));
      (function tick() {
        if (view.dataset.drawn && view.dataset.drawn !== before) done((performance.now() - began) / 1000);
        else requestAnimationFrame(tick);
      })();
    JS

    def dial(shot)
      times = Array.new(5) do
        @browser.find_element(css: "body").send_keys(:home)
        sleep 1
        seconds = @browser.execute_async_script(DRAWN)
        sleep 0.3 until ask("/jobs")["jobs"].none? { |job| %w[queued running].include?(job["state"]) }
        seconds
      end
      times.sort[2].round(2)
    end

    # From a press on Stop to the frame's picture at full resolution.
    # Fine is what is on the screen: a pixel is read, which waits for all that was handed over.
    RESTS = <<~JS
      const done = arguments[0], view = document.querySelector("[data-view]");
      const began = performance.now();
      document.querySelector("[data-play]").click();
      (function tick() {
        if (view.dataset.scale !== "1" || !view.dataset.drawn) return requestAnimationFrame(tick);
        const gl = view.querySelector("canvas").getContext("webgl2");
        gl.readPixels(0, 0, 1, 1, gl.RGBA, gl.UNSIGNED_BYTE, new Uint8Array(4));
        done((performance.now() - began) / 1000);
      })();
    JS

    # Frames that were never at rest: the first round of playing is stopped somewhere, again and again.
    def paused(shot)
      @browser.get("#{url}/shots/#{shot}")
      sleep 0.1 until @browser.execute_script("return window.stood_desk")
      sleep 6
      times = Array.new(5) do |turn|
        play = @browser.find_element(css: "[data-play]")
        play.click unless play.attribute("aria-label") == "Stop"
        sleep 1.1 + 0.2 * turn
        @browser.execute_async_script(RESTS)
      end
      times.sort[2].round(2)
    end

    # Notes when each frame stood in the view.
    ARRIVES = <<~JS
      const view = document.querySelector("[data-view]");
      window.came = [];
      window.coming?.disconnect();
      window.coming = new MutationObserver(() => window.came.push(performance.now()));
      window.coming.observe(view, {attributes: true, attributeFilter: ["data-drawn"]});
    JS

    # A dial is held with the live draft on; the first drag only builds what the second is measured with.
    def live(shot)
      @browser.get("#{url}/shots/#{shot}")
      sleep 0.1 until @browser.execute_script("return window.stood_desk")
      chip = @browser.find_element(css: "[data-chip='live']")
      chip.click if chip.attribute("aria-pressed") != "true"
      rates = Array.new(4) { sleep(3) && drag }.drop(1)
      @browser.find_element(css: "[data-chip='live']").click
      rates.sort[1].round(1)
    end

    # @return [Float] pictures a second from the first to the last frame
    def drag
      @browser.find_element(css: "body").send_keys(:home)
      number = @browser.find_element(css: "[data-dial='source-1.smoke'] [role='spinbutton']")
      @browser.execute_script(ARRIVES)
      @browser.action.move_to(number).click_and_hold.move_by(20, 0).move_by(15, 0).perform
      sleep 8
      came = @browser.execute_script("return window.came").first(46)
      @browser.action.release.perform
      sleep 0.3 until ask("/jobs")["jobs"].none? { |job| %w[queued running].include?(job["state"]) }
      (came.length - 1) / (came[-1] - came[0]) * 1000.0
    end
  end
end

roots = ARGV.empty? ? [Vumbral::ROOT] : ARGV
rows = roots.map do |root|
  felt = Vumbral::Felt.new(root)
  [root, felt.call].tap { felt.close }
end
rows[0][1].each_key { |name| puts format("%-44s %s", name, rows.map { |_, found| format("%10s", found[name]) }.join) }
