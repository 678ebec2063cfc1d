# frozen_string_literal: true

require "digest"
require "json"

module Vumbral
  module Studio
    module Farm
      # What a job that another machine does may write, and nothing else: names in the data folder.
      class Outputs
        # Folders of which a worker may read.
        READ = %w[frames meshes pictures plates tables volumes surfaces sculpts elements views].freeze

        # @param job [Hash] its row
        def initialize(workshop, job)
          @workshop, @job = workshop, job
          @payload = JSON.parse(job[:payload])
        end

        # @return [Array<String>] names; those that end in one of . - / stand for all that begin so
        def allowed
          case @job[:kind]
          when "print", "tile"
            ["cuts/#{@job[:id]}/"]
          when "cut"
            cut
          when "element"
            @payload["name"].then { |name| ["elements/#{name[0, 2]}/#{name}.half"] }
          when "surface"
            [surface]
          when "lighting"
            @payload["rows"].flat_map do |_, key, light|
              ["frames/#{key[0, 2]}/#{key}.", "views/#{key[0, 2]}/#{key}-#{light}.gz"]
            end
          when "run", "variation", "skin"
            keys.flat_map { |key| ["frames/#{key[0, 2]}/#{key}.", "views/#{key[0, 2]}/#{key}-"] }
          else
            []
          end.uniq
        end

        # @return [Array<String>] keys of the frames that it may make
        def keys
          @keys ||= case @job[:kind]
          when "run" then of_run
          when "variation" then of_variation
          when "skin" then [@payload["key"]]
          else []
          end.compact.uniq
        end

        # @param name [String] in the data folder
        # @return [Boolean]
        def allow?(name)
          return false if name.include?("..") || name.include?("\0")

          allowed.any? do |one|
            one.end_with?(".", "-", "/") ? name.start_with?(one) && !name.delete_prefix(one).include?("/") : name == one
          end || sculpted?(name)
        end

        # What a recipe says tells its own name. @return [Boolean] whether a file may stand there
        def right?(name, path) =
          !name.start_with?("sculpts/") || Digest::SHA256.file(path).hexdigest[0, 32] == File.basename(name, ".json")

        private

        def surface
          name, alteration = @payload.values_at("key", "alteration")
          if alteration
            @workshop.liquids.altered_name(name, @payload["least"], alteration)
          else
            "surfaces/#{name[0, 2]}/#{name}-#{@payload["number"]}.corners"
          end
        end

        # Its own frames, and small prints for a sheet, which lie in a folder of their own.
        def cut
          folder, first, keys = "cuts/#{@payload["whole"]}", *@payload.values_at("first", "keys")
          Array.new(keys.size) { |n| "#{folder}/#{CutWork.name(first + n)}" } + ["#{folder}/.#{@job[:shot_id]}-sheet/"]
        end

        # Sculpts that are seen with one of the job's frames, by their recipes.
        def sculpted?(name)
          return false unless keys.any?

          folder, _, file = name.split("/")
          return name.match?(%r{\Asculpts/\h\h/\h{32}\.json\z}) if folder == "sculpts"
          return false unless %w[frames views].include?(folder) && file.to_s.match?(/\A\h{32}[.-]/)

          recipe = @workshop.sculpts.path(file[0, 32])
          File.exist?(recipe) && File.read(recipe).then { |text| keys.any? { |key| text.include?(key) } }
        end

        def of_run
          row = @workshop.runs.fetch(@payload["run"])
          revision = @workshop.shots.revision(row[:shot_id], row[:revision]) or return []
          of(@workshop.shots.read(revision[:document]), row[:quality]) + JSON.parse(row[:keys]) +
            JSON.parse(row[:liquid_keys])
        end

        def of_variation
          row = @workshop.strips.row(@payload["strip"])
          place = @payload["place"]
          document = @workshop.strips.document(row, place)
          of(document, row[:quality]) + JSON.parse(row[:keys])[place].to_a + JSON.parse(row[:liquid_keys])[place].to_a +
            @workshop.sculpts.keys_of(document, row[:quality]).values
        end

        # Of the gas and of the liquid, both coarse and refined.
        def of(document, quality)
          gas = @workshop.runs.still?(document) ? [] : @workshop.runs.plan_of(document, quality)
            .then { |plan| plan.keys.values + @workshop.runs.shown_keys(plan).values }
          gas + @workshop.liquids.keys(document, quality).values
        end
      end
    end
  end
end
