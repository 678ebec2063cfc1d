# frozen_string_literal: true

module Vumbral
  # Many shots handed on by their saved exports.
  RSpec.describe Studio::Batch do
    include FinishHelp

    around do |example|
      with_workshop { |workshop| (@workshop = workshop) && Dir.mktmpdir { |out| (@out = out) && example.run } }
    end

    def batch =
      described_class.new(@workshop, File.join(@out, "handed"), quality: "draft") do |job, _|
        work(@workshop, job).then do |row|
          if row[:state] == "done"
            JSON.parse(row[:result], symbolize_names: true)
          else
            raise(Refused.new(row[:error], code: row[:code]))
          end
        end
      end

    def handed =
      Dir[File.join(@out, "handed", "**", "*")]
        .select { |path| File.file?(path) }
        .map { |path| path.delete_prefix(File.join(@out, "handed/")) }
        .sort

    def shot(*edits) = small_shot(edits: [set("general", :last, 2), *edits])

    it "runs a shot and hands it on by each of its saved exports, or as pictures where it has none" do
      saved = {
        "do" => "add",
        "kind" => "export",
        "id" => "volumes",
        "name" => "Volumes",
        "dials" => {
          "as" => "vdb", "beside" => false
        }
      }
      one, two = shelve(@workshop, shot(saved)), shelve(@workshop, shot)
      expect(batch.shot(one).map { |row| row.values_at(:export, :files) }).to eq([["Volumes", 2]])
      expect(batch.shot(two).map { |row| row.values_at(:export, :files) }).to eq([["png", 5]])
      expect(handed).to include(
        "#{one}/volumes/#{one}.0002.vdb", "#{two}/png/#{two}.0001.png", "#{two}/png/#{two}.log.txt"
      )
    end

    it "does what lies in a folder, puts it away, and says what was wrong with what it could not do" do
      folder = File.join(@out, "watched")
      FileUtils.mkdir_p(folder)
      File.write(File.join(folder, "good.json"), JSON.generate(shot.to_h))
      File.write(File.join(folder, "bad.json"), "{")
      File.write(File.join(folder, "fresh.json"), "{")
      %w[good bad].each { |name| File.utime(Time.now - 60, Time.now - 60, File.join(folder, "#{name}.json")) }
      File.utime(Time.now + 60, Time.now + 60, File.join(folder, "fresh.json"))
      told = {}
      expect(batch.folder_of(folder) { |name, outcome| told[name] = outcome }).to eq(2)
      expect(told).to match("good.json" => [include(export: "png")], "bad.json" => /is not JSON/)
      expect(Dir.chdir(folder) { Dir["**/*.*"].sort }).to eq(
        %w[done/good.json failed/bad.json failed/bad.json.txt fresh.json]
      )
      expect(handed.grep(/0002\.png/).size).to eq(1)
    end
  end
end
