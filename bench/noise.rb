# frozen_string_literal: true

# Noise of pictures with blur, in parts of demo frames at 640x360 through a wide open lens: how far pictures of 16
# samples, as they come and smoothed, and of 64 are from one of 512; how many samples a wanted noise takes.
# Usage: bundle exec ruby bench/noise.rb [SHOT …]

require_relative "support"
require "tmpdir"

module Vumbral
  # By name: what is sharp (m), the part of the picture, and its pixels.
  PARTS = {Demo::FairSign => [1.5, [0.7, 0.5, 1.0, 0.9], [192, 144]],
           Demo::MorningYard => [2.0, [0.35, 0.1, 0.85, 0.45], [160, 63]],
           Demo::PaperLeaf => [0.6, [0.3, 0.3, 0.7, 0.7], [160, 90]],
           Demo::LidBurst => [2.0, [0.3, 0.3, 0.7, 0.8], [160, 112]],
           Demo::KilnDraw => [5.0, [0.4, 0.5, 0.65, 0.85], [160, 126]]}.freeze

  # As it shows: bright light counts no more than white does.
  def self.shown(image) =
    image.to_a.each_slice(4).map { |r, g, b, _| (0.2126 * r + 0.7152 * g + 0.0722 * b).then { |l| l / (l + 0.4) } }

  def self.off(one, other) = Math.sqrt(one.zip(other).sum { |a, b| (a - b)**2 } / one.size)

  plain = {"noise" => 0.0, "denoise" => false, "fireflies" => false}
  asked = PARTS.select { |shot, _| ARGV.empty? || ARGV.include?(shot::ID) }
  Dir.mktmpdir do |home|
    workshop = Studio::Workshop.new(home)
    asked.each do |shot, (focus, crop, size)|
      Demo::Maker.new(workshop).send(:make, shot)
      settings = workshop.painting.settings(workshop.shots.document(shot::ID), shot::PRINT)
      ready = nil
      picture = lambda do |dials|
        wide = {
          "focus" => focus, "focus_at" => nil, "aperture" => settings["camera"]["focal"] / 128.0, "shutter" => 0.5,
          "crop" => crop
        }
        renderer =
          Picture::Renderer.new(settings.merge("camera" => settings["camera"].merge(wide, dials)), workshop.assets)
        ready ||= renderer.prepare(nil)
        count = 0
        [renderer.image(ready, *size) { count += 1 }, count]
      end
      exact = shown(picture.call(plain.merge("samples" => 512))[0])
      few, many = [16, 64].map { |samples| off(shown(picture.call(plain.merge("samples" => samples))[0]), exact) }
      smooth =
        off(shown(picture.call("samples" => 16, "noise" => 0.0, "denoise" => true, "fireflies" => true)[0]), exact)
      image, count = picture.call("samples" => 128, "noise" => 0.4, "denoise" => false, "fireflies" => false)
      puts format(
        "%-13s of 16: %.4f, of 64: %.4f, of 16 smoothed: %.4f (%.2f of 64's); to 0.4 %%: %d pictures, %.4f",
        shot::ID, few, many, smooth, smooth / many, count, off(shown(image), exact)
      )
    end
  end
end
