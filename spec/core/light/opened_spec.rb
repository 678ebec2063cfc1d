# frozen_string_literal: true

module Vumbral
  RSpec.describe Light::VolumeKernels do
    # A ball over the ground in the sun, in a grid of twelve centimetres.
    it "finds what props leave of a lamp as if each voxel's corners were looked at, where voxels agree and where not" do
      document = small_shot(edits: [set("prop-1", :shown, true), set("prop-1", :position, [0.0, 1.0, 0.0])])
      settings = Picture::Renderer.settings(document, 1)
      lamps = Light::Rig.new(settings["rig"], nil).lamps
      scene = Picture::PropScene.new(settings["props"], nil)
      shape = [24, 20, 24]
      near = Kernel::Buffer.new(:u8, *shape).fill(1)
      what = [near, lamps, scene.corners, scene.boxes, Grid::Lattice.new(-1.4, 0.06, -1.4, 0.12)]
      seen = Kernel::Buffer.new(:u8, lamps.dim(0), *shape)
      described_class.sighted(seen, *what)
      # No two voxels beside each other agree, so that all are looked at closely.
      unlike = Kernel::Buffer.new(:u8, *seen.shape)
      shape[0].times { |k| shape[1].times { |j| shape[2].times { |i| unlike[0, k, j, i] = (i + j + k) % 2 } } }
      quick, close = [seen, unlike].map { |marks|
        Kernel::Buffer.new(:f32, *seen.shape).tap { |open| described_class.opened(open, marks, *what) }.to_a
      }
      expect(close.count { |part| part < 0.01 }).to be > 60
      expect(close.count { |part| part.between?(0.05, 0.95) }).to be > 60
      expect(quick.zip(close).count { |a, b| (a - b).abs > 0.01 }).to be <= close.size / 1000
    end
  end
end
