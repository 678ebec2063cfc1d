# frozen_string_literal: true

require "fileutils"

module Vumbral
  module Studio
    # Shots run and handed on by their saved exports, one after the other; and a folder in which they may be laid for
    # that.
    class Batch
      # Where what was laid into a folder goes once it is done with.
      DONE, FAILED = "done", "failed"
      # A file that grew in this time is still being copied, seconds.
      STILL = 1.0

      # @param out [String] a folder, in which each shot gets one
      # @param quality [String] "draft" or "full"
      # @yield [job id, words] does a job that was given; its result comes back, see {CLI::Base#follow}
      def initialize(workshop, out, quality: "full", &follow)
        @workshop, @out, @quality, @follow = workshop, out, quality, follow
      end

      # @return [Array<Hash>] of each saved export (of all frames as PNG, where a shot has none) :export and what came
      #   of it
      # @raise [Refused]
      def shot(id)
        row = @workshop.shots.fetch(id)
        document = @workshop.shots.document(row[:id])
        run(row, document) if feeds?(document)
        saved = document.of(:export)
        if saved.empty?
          return [
            {export: "png"}.merge(
              @follow.call(
                @workshop.exports.start(row[:id], "png", out: folder(row, "png"), beside: true), "#{row[:name]}, png"
              )
            )
          ]
        end

        saved.map do |node|
          {export: node.name}.merge(
            @follow.call(
              @workshop.exports.start_saved(row[:id], node.id, out: folder(row, node.id)), "#{row[:name]}, #{node.name}"
            )
          )
        end
      end

      # Does what lies in a folder: shot files and packed shots. Each goes on to "done" or "failed" there, with what was
      # wrong beside it.
      # @param watched [String]
      # @yield [name, outcome] a file's name, and what came of it: as {#shot}, or a sentence
      # @return [Integer] how many there were
      def folder_of(watched)
        waiting(watched).each do |path|
          name = File.basename(path)
          outcome = begin
            shot(brought(path)[:id])
          rescue Refused => error
            error.message
          end
          put_away(watched, path, outcome)
          yield name, outcome
        end.size
      end

      private

      def feeds?(document) = !@workshop.runs.still?(document) || @workshop.liquids.any?(document)

      def run(row, document)
        run = @workshop.runs.start(row[:id], @quality, views: false)
        @follow.call(run[:job_id], "#{document.name}, #{@quality}")
      end

      def folder(row, export) = File.join(File.expand_path(@out), row[:id], export)

      # The oldest first; what is still being copied is left until it is whole.
      def waiting(watched)
        Dir[File.join(watched, "*.{zip,json}")]
          .select { |path| File.file?(path) && Time.now - File.mtime(path) > STILL }
          .sort_by { |path| [File.mtime(path), path] }
      end

      def brought(path)
        name = File.basename(path)
        if path.end_with?(".zip")
          @workshop.bundles.unpack(path, name)
        else
          @workshop.shots.import(File.binread(path), from: name)
        end
      end

      def put_away(watched, path, outcome)
        to = File.join(watched, outcome.is_a?(String) ? FAILED : DONE)
        FileUtils.mkdir_p(to)
        name = File.basename(path)
        name = "#{Time.now.strftime("%Y%m%d-%H%M%S")} #{name}" if File.exist?(File.join(to, name))
        FileUtils.mv(path, File.join(to, name))
        File.write(File.join(to, "#{name}.txt"), "#{outcome}\n") if outcome.is_a?(String)
      end
    end
  end
end
