# frozen_string_literal: true

require "capybara/rspec"
require "selenium-webdriver"
require "vips"

# Drives the real interface in headless Chromium, against the real server with its workers.
module Vumbral
  module Browser
    # Pixels for each of the page's, each way: the fewer, the less there is to draw.
    PIXELS = ENV.fetch("VUMBRAL_PIXELS", "0.75")
    FLAGS = %W[--headless=new --no-sandbox --enable-unsafe-swiftshader --disable-background-networking
      --disable-component-update
      --disable-sync --no-first-run --disable-quic --disable-default-apps --disable-extensions --mute-audio --hide-scrollbars --force-device-scale-factor=#{PIXELS}
      --window-size=1180,860].freeze

    # Chromium whose focus may be on something that goes away, or fades, at that moment: the page has it soon after, and
    # gets the keys.
    class Driver < Capybara::Selenium::Driver
      # So often it is tried, a tenth of a second apart.
      TRIES = 30

      def send_keys(*)
        tries ||= 0
        super
      rescue Selenium::WebDriver::Error::StaleElementReferenceError,
        Selenium::WebDriver::Error::ElementNotInteractableError
        raise if (tries += 1) > TRIES

        sleep 0.1
        retry
      end
    end

    # One server for all browser specs, on a data folder of its own.
    class House
      attr_reader :home, :url

      def initialize
        @home = Dir.mktmpdir
        port = TCPServer.open("127.0.0.1", 0) { |server| server.addr[1] }
        @url = "http://127.0.0.1:#{port}"
        @log = File.join(@home, "server.log")
        @pid = Process.spawn(File.join(ROOT, "bin", "vumbral"), "serve", "--home", @home, "--port", port.to_s,
          out: @log, err: @log)
        Timeout.timeout(60) { sleep 0.05 until File.read(@log).include?("Vumbral is at") }
      end

      def workshop = @workshop ||= Studio::Workshop.new(@home)

      def stop
        Process.kill(:TERM, @pid)
        Timeout.timeout(30) { Process.wait(@pid) }
        FileUtils.rm_rf(@home)
      end
    end

    class << self
      def house = @house ||= House.new

      def stop
        @house&.stop
        @house = nil
      end
    end

    def house = Browser.house

    def workshop = house.workshop

    # Waits until something holds, as a person would: again and again, up to a limit.
    def eventually(seconds = 30)
      limit = Process.clock_gettime(Process::CLOCK_MONOTONIC) + seconds
      begin
        yield
      rescue RSpec::Expectations::ExpectationNotMetError, Selenium::WebDriver::Error::StaleElementReferenceError
        raise if Process.clock_gettime(Process::CLOCK_MONOTONIC) > limit

        sleep 0.1
        retry
      end
    end

    def open_desk(id)
      visit "#{house.url}/shots/#{id}"
      expect(page).to have_css("[data-desk]", wait: 30)
      # Demo playback and first pictures.
      stop_playing
    end

    def stop_playing
      find("[data-play]").click if page.has_css?("[data-play][aria-label='Stop']", wait: 0)
    end

    def go_to(frame)
      page.execute_script("document.activeElement?.blur()")
      page.send_keys(:home)
      (frame - 1).times { page.send_keys(:right) }
      expect(find("[data-frame]")).to have_text(/\A#{frame}\z/)
    end

    # The view as pixels, 0 to 255. @return [Vips::Image]
    def view_pixels
      image =
        Vips::Image.new_from_buffer(Base64.decode64(page.driver.browser.screenshot_as(:base64)), "").extract_band(
          0, n: 3
        )
      box =
        page.evaluate_script(
          "(() => { const b = document.querySelector('[data-view]').getBoundingClientRect(); return [b.x, b.y, " \
            "b.width, b.height].map((length) => length * devicePixelRatio); })()"
        )
      image.crop(*box.map(&:round))
    end

    # How much of the view's middle changes when smoke is hidden.
    def smoke_seen
      with = view_pixels
      find("[data-chip='smoke']").click
      eventually { expect(find("[data-chip='smoke']")["aria-pressed"]).to eq("false") }
      sleep 0.3
      without = view_pixels
      find("[data-chip='smoke']").click
      width, height = with.width, with.height
      (with - without).abs.crop(width / 8, height / 8, width * 3 / 4, height * 3 / 4).avg
    end

    def dial(id) = find("[data-dial='#{id}']")

    # Types a number into a dial, as a person would.
    def type_into(id, text)
      dial(id).find("[role='spinbutton']").click
      dial(id).find("input").send_keys([:control, "a"], text.to_s, :enter)
      saved
    end

    # The dial's fields for numbers.
    def number(dial, index = 0) = dial(dial).all("[role='spinbutton']", minimum: index + 1)[index]

    def type(dial, value, index = 0)
      number(dial, index).click
      # A menu that closes meanwhile may have taken the focus back.
      number(dial, index).click unless dial(dial).has_css?("input.field", wait: 4)
      dial(dial).find("input.field").send_keys([:control, "a"], value.to_s, :enter)
      expect(dial(dial)).to have_no_css("input.field") unless value.to_s.start_with?("=")
      saved
    end

    # Waits until the shot has every edit that was made on the desk.
    def saved = expect(page).to(have_no_css("[data-unsaved]", wait: 30))

    def place(dial, values) = values.each_with_index { |value, n| type(dial, value, n) }

    def choose(dial, words)
      dial(dial).find(".n-base-selection").click
      find(".n-base-select-option", text: words).click
      saved
    end

    # A key at each frame. @param values [Hash{Integer => Numeric}]
    def key(dial, values)
      values.each do |frame, value|
        go_to frame
        type(dial, value)
        dial(dial).find("[data-key]").click unless dial(dial).has_css?(".key.here", wait: 1)
        saved
      end
    end

    def open_card(node)
      expect(page).to have_css("[data-node='#{node}']")
      find("[data-node='#{node}'] .head").click if page.has_no_css?("[data-node='#{node}'].open", wait: 1)
      expect(page).to have_css("[data-node='#{node}'].open")
    end

    # Adds something of the open chapter; a prop by its shape.
    def add(kind, what = nil)
      find("[data-add='#{kind}']").click
      pick_option(what) if what
      saved
    end

    # Takes an option of the menu that is open; one that is still growing moves away under the pointer.
    def pick_option(text)
      expect(page).to have_css(".n-dropdown-option", text: text)
      expect(page).to have_no_css(
        ".fade-in-scale-up-transition-enter-active, .fade-in-scale-up-transition-leave-active"
      )
      find(".n-dropdown-option", text: text).click
    end

    # A new shot from the shelf. @return [String] its id
    def begin_shot(name, starter)
      visit house.url
      find("[data-new-shot]").click
      fill_in "name", with: name
      find("[data-starter='#{starter}']").click
      find("[data-make]").click
      expect(page).to have_css("[data-desk]", wait: 30)
      stop_playing
      eventually do
        workshop.db[:shots].first(name: name)&.fetch(:id) || raise(RSpec::Expectations::ExpectationNotMetError)
      end
    end

    # Lets files fall on something, as the hand does from another window.
    def drop(selector, **files)
      page.execute_script(<<~JS, selector, files.to_h { |name, bytes| [name.to_s, [bytes].pack("m0")] })
        const [selector, files] = arguments, data = new DataTransfer();
        for (const [name, text] of Object.entries(files))
          data.items.add(new File([Uint8Array.from(atob(text), (c) => c.charCodeAt(0))], name));
        const target = document.querySelector(selector), box = target.getBoundingClientRect();
        for (const kind of ["dragover", "drop"])
          target.dispatchEvent(new DragEvent(kind, {bubbles: true, cancelable: true, dataTransfer: data, clientX: box.left + 0.5 * box.width, clientY: box.top + 0.8 * box.height}));
      JS
    end

    # Takes steps back, each as soon as the one before is.
    def undo(id, times = 1)
      times.times do
        head = workshop.shots.fetch(id)[:head]
        page.execute_script("document.activeElement?.blur()")
        page.send_keys([:control, "z"])
        eventually { expect(workshop.shots.fetch(id)[:head]).not_to eq(head) }
      end
    end

    def wait_for_draft(id)
      eventually(60) do
        expect(workshop.runs.state(id, "draft")[:rows].map { |row| [row[:state], row[:lit]] }.uniq).to eq(
          [["fresh", true]]
        )
      end
    end
  end
end

Capybara.register_driver(:chromium) do |app|
  options = Selenium::WebDriver::Chrome::Options.new(binary: "/usr/bin/chromium", args: Vumbral::Browser::FLAGS)
  Vumbral::Browser::Driver.new(app, browser: :chrome, options: options,
    service: Selenium::WebDriver::Service.chrome(path: "/usr/bin/chromedriver"))
end

Capybara.configure do |config|
  config.run_server = false
  config.default_driver = :chromium
  config.default_max_wait_time = 15
  config.enable_aria_label = true
  config.save_path = File.join(Vumbral::ROOT, "tmp", "browser")
end

RSpec.configure do |config|
  config.include Capybara::DSL, browser: true
  config.include Capybara::RSpecMatchers, browser: true
  config.include Vumbral::Browser, browser: true
  config.after(:each, browser: true) do |example|
    page.save_screenshot("#{example.description.gsub(/\W+/, "-")}.png") if example.exception # rubocop:disable Lint/Debugger
    Capybara.reset_sessions!
  end
  config.after(:suite) { Vumbral::Browser.stop }
end
