# frozen_string_literal: true

# Whole at once: several threads may not load it at the same time.
require "digest/sha2"
require "zeitwerk"

# Text is UTF-8 here, whatever the machine's language is set to.
Encoding.default_external = Encoding::UTF_8

# The whole application. The folders are the layers: the core knows nothing of the studio,
# the studio nothing of the server, and these two nothing of the command line.
module Vumbral
  ROOT = File.expand_path("..", __dir__)

  # Everything that may go wrong through what somebody asked for. The message is one sentence
  # that names the place and the remedy; `code` and `details` are for programs.
  class Refused < StandardError
    attr_reader :code, :details

    def initialize(message, code: "refused", details: nil)
      # Whatever was quoted from a file, the sentence can be stored and sent.
      super(message.dup.force_encoding(Encoding::UTF_8).scrub("?").gsub(/[\x00-\x1f\x7f]/, " "))
      @code = code
      @details = details
    end
  end

  module Studio; end

  module Server; end

  module Demo; end

  module Away; end

  module CLI; end

  LOADER = Zeitwerk::Loader.new
  LOADER.tag = "vumbral"
  LOADER.push_dir(File.join(ROOT, "core"), namespace: self)
  LOADER.push_dir(File.join(ROOT, "studio"), namespace: Studio)
  LOADER.push_dir(File.join(ROOT, "server"), namespace: Server)
  LOADER.push_dir(File.join(ROOT, "away"), namespace: Away)
  LOADER.push_dir(File.join(ROOT, "demo"), namespace: Demo)
  LOADER.push_dir(File.join(ROOT, "cli"), namespace: CLI)
  LOADER.inflector.inflect(
    "obj" => "OBJ", "usda" => "USDA", "stl" => "STL", "vdb" => "VDB", "bvh" => "BVH", "mtl" => "MTL", "ply" => "PLY",
    "gltf" => "GLTF", "svg" => "SVG", "svg_path" => "SVGPath", "obj_kernels" => "OBJKernels",
    "stl_kernels" => "STLKernels", "bvh_kernels" => "BVHKernels", "vdb_tree" => "VDBTree",
    "vdb_kernels" => "VDBKernels", "vdb_reader" => "VDBReader", "vdb_read_kernels" => "VDBReadKernels", "exr" => "EXR",
    "exr_kernels" => "EXRKernels", "id_mattes" => "IDMattes"
  )
  LOADER.ignore(File.join(ROOT, "studio", "migrations"))
  LOADER.setup
end
