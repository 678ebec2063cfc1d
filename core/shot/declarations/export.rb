# frozen_string_literal: true

module Vumbral
  module Shot
    module Declarations
      # The choices and switches here are all that exports know; how each is written is told by the studio.
      Export = Kind.new(:export, "Saved export", plural: "Saved exports", chapter: :export,
        help: "Settings of an export that are kept with the shot, to be used again and again.") do
        pictures = %w[png png16 exr jpg tif dpx]
        movies = %w[mp4 hevc webm webm-alpha ffv1]
        props = %w[obj ply glb]
        group "What is handed on", touches: :view do
          choice :as, "As", default: "png",
            choices: {
              png: "PNG pictures with alpha", png16: "PNG pictures with alpha, 16 bit", exr: "OpenEXR pictures, linear",
              jpg: "JPEG pictures", tif: "TIFF pictures with alpha, 16 bit", dpx: "DPX pictures, 10 bit",
              vdb: "OpenVDB volumes", obj: "OBJ, props of each frame", ply: "PLY, props of each frame",
              glb: "GLB, props in one moving file",
              usda: "USD scene as text: camera, props, lamps and points, and OpenVDB volumes beside it",
              points: "PLY, particles of emitters with speed, age, number and which emitter",
              drops: "PLY, particles of the liquid with speed, age, number and kind",
              "vdb-surface": "OpenVDB, distance from the liquid's surface",
              zip: "ZIP, the whole shot with all files that it uses", mp4: "MP4 movie, H.264", hevc: "MP4 movie, H.265",
              webm: "WebM movie, VP9", "webm-alpha": "WebM movie with alpha, VP9", ffv1: "MKV movie without loss, FFV1"
            }, help: "An open format."
          choice :which, "Frames", default: "all", choices: {all: "all of the shot", part: "some of them"},
            help: "Of some, those that there are."
          whole :from, "From", default: 1, range: -100_000..100_000, slider: 1..240, time: :from,
            only: {which: %w[part]}, help: "The first one."
          whole :to, "To", default: 48, range: -100_000..100_000, slider: 1..240, time: :to, only: {which: %w[part]},
            help: "The last one."
          number :size, "Size", unit: "%", default: 100.0, range: 1.0..800.0, slider: 25.0..200.0,
            only: {as: pictures + movies}, help: "Of the picture's width and height."
          choice :space, "Colours", default: "screen", only: {as: %w[png16 tif dpx]},
            choices: {
              screen: "as a screen shows them, through the picture's film", video: "light for video (Rec. 709)",
              log: "light in a log (ITU-R BT.2100 HLG)", film: "light by a film's density (Cineon, DPX)"
            },
            help: "The last three hand the light on as it is, exposed and balanced, before the background and " \
              "without the film's curve."
          switch :finish, "With the layers of the finish", default: true, only: {as: pictures + movies},
            help: "Off hands on the shot's own picture, where there are layers."
          nodes :props, "Only these props", of: :prop, default: [], only: {as: props}, help: "All of them without any."
        end
        group "Besides the picture", touches: :view do
          {
            depth: ["Depth", true, "How far what is seen lies ahead, metres."],
            lamps: ["Lamps by themselves", false, "A layer for each lamp, the sky and what glows."],
            layers: ["Layers by themselves", false, "The layers of the finish, by their names."],
            masks: ["Masks", false, "A mask of each prop and of the smoke."],
            normal: ["Surfaces", false, "How surfaces lie."],
            motion: ["Motion", false, "How far things and gas moved since the frame before."],
            heat: ["Heat", false, "How much hot gas lies before them."]
          }.each do |name, (label, default, help)|
            switch name, label, default: default, only: {as: %w[exr]}, help: help
          end
        end
        group "Volumes", touches: :view do
          {
            density: ["Smoke", "Density."], temperature: ["Heat", "Temperature, kelvin."],
            v: ["Velocity", "Metres a second, on the faces of voxels."], fuel: ["Fuel", "What has not burnt."]
          }.each do |name, (label, help)|
            switch :"grid_#{name}", label, default: true, only: {as: %w[vdb]}, help: help
          end
          switch :half, "Half precision", default: false, only: {as: %w[vdb]},
            help: "Half as large; frames are kept in half precision anyway, velocities and temperatures are " \
              "rounded a little more."
          node :clip, "Only inside", of: :prop, default: nil, only: {as: %w[vdb]},
            help: "The box about this prop, where it is at each frame."
        end
        group "The files", touches: :view do
          line :name, "Called", default: "{shot}.{frame}",
            help: "With {shot} for the shot's name in plain letters, {frame} for the frame's number, {export} for " \
              "the name of this export. A movie goes without the frame."
          switch :beside, "With a log and a sheet", default: true,
            help: "A list of every setting and the shot itself as a file; of pictures and movies a sheet of small " \
              "prints too."
        end
      end
    end
  end
end
