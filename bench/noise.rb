# frozen_string_literal: true

# Noise of pictures with blur: how far pictures of 16 samples, as they come and smoothed, and of 64 are from one of 1024,
# and how many samples a wanted noise takes. Usage: bundle exec ruby bench/noise.rb

require_relative "support"
require "tmpdir"

module Vumbral
  SIZE = [192, 108].freeze
  SHOTS = {Demo::KilnDraw => 3.0, Demo::MorningYard => 4.0, Demo::FairSign => 3.0}.freeze

  def self.picture(workshop, document, frame, dials)
    settings = workshop.painting.settings(document, frame)
    settings = settings.merge("camera" => settings["camera"].merge("aperture" => 1.4, "focal" => 60.0, "shutter" => 0.5, **dials))
    renderer = Picture::Renderer.new(settings, workshop.assets)
    started = Process.clock_gettime(Process::CLOCK_MONOTONIC)
    image = renderer.image(@ready ||= renderer.prepare(nil), *SIZE)
    [image, Process.clock_gettime(Process::CLOCK_MONOTONIC) - started, renderer]
  end

  # As it shows: bright light counts no more than white does.
  def self.shown(image) = image.to_a.each_slice(4).map { |r, g, b, _| (0.2126 * r + 0.7152 * g + 0.0722 * b).then { |l| l / (l + 0.4) } }

  def self.off(one, other) = Math.sqrt(one.zip(other).sum { |a, b| (a - b)**2 } / one.size)

  PLAIN = {"noise" => 0.0, "denoise" => false, "fireflies" => false}.freeze
  Dir.mktmpdir do |home|
    workshop = Studio::Workshop.new(home)
    SHOTS.each_key { |shot| Demo::Maker.new(workshop).send(:make, shot) }
    SHOTS.each do |shot, focus|
      @ready = nil
      document = workshop.shots.document(shot::ID)
      try = ->(dials) { picture(workshop, document, shot::PRINT, {"focus" => focus}.merge(dials)) }
      exact = shown(try.call(PLAIN.merge("samples" => 1024))[0])
      few, many, smooth = [PLAIN.merge("samples" => 16), PLAIN.merge("samples" => 64), PLAIN.merge("samples" => 16, "denoise" => true, "fireflies" => true)].map { |dials| try.call(dials) }
      errors = [few, many, smooth].map { |image, _, _| off(shown(image), exact) }
      puts format("%-14s RMS of 16: %.4f, of 64: %.4f, of 16 smoothed: %.4f; time %.2f, %.2f, %.2f", shot::ID, *errors, few[1], many[1] / few[1], smooth[1] / few[1])
    end
  end
end
