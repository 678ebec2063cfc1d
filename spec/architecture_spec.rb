# frozen_string_literal: true

module Vumbral
  RSpec.describe "The house" do
    def sources(folder, ending = "rb") = Dir[File.join(ROOT, folder, "**", "*.#{ending}")]

    def code(path) = File.readlines(path).reject { |line| line.strip.start_with?("#") }.join

    {"core" => /\b(Sinatra|Sequel|Rack|Puma|Thor|Studio|Server|CLI|Demo)\b|Time\.now|Process\.clock/,
     "studio" => /\b(Sinatra|Rack|Puma|Thor|Server|CLI|Demo|Away::)\b/,
     "server" => /\b(Sequel|Thor|CLI|Demo)\b/,
     "away" => /\b(Sinatra|Rack|Puma|Thor|Server|CLI|Demo)\b/,
     "demo" => /\b(Sinatra|Rack|Puma|Thor|Server|CLI)\b/}.each do |folder, above|
      it "has nothing in #{folder} that looks up" do
        looking =
          sources(folder).filter_map do |path|
            "#{path.delete_prefix("#{ROOT}/")}: #{code(path)[above]}" if code(path).match?(above)
          end
        expect(looking).to eq([])
      end
    end

    it "has no two rooms in the core that use each other both ways" do
      rooms = Dir[File.join(ROOT, "core", "*/")].map { |path| File.basename(path) }
      names = rooms.to_h { |room| [room, LOADER.cpath_expected_at(File.join(ROOT, "core", room)).split("::").last] }
      uses = rooms.to_h do |room|
        text = sources("core/#{room}").map { |path| code(path) }.join
        [room, rooms.select { |other| other != room && text.match?(/(?<![\w:])#{names[other]}::/) }]
      end
      both = rooms.combination(2).select { |a, b| uses[a].include?(b) && uses[b].include?(a) }
      expect(both).to eq([])
    end

    it "loads every file by its name" do
      expect { LOADER.eager_load(force: true) }.not_to raise_error
    end

    it "explains every public method of the core that does the work" do
      bare = sources("core").flat_map do |path|
        lines = File.readlines(path)
        lines.each_index.filter_map do |n|
          next unless lines[n].match?(/\A {4}(module|class) [A-Z]/)

          unless lines[n - 1].strip.start_with?("#") || lines[n].include?("Refused") || lines[n].include?("; end")
            "#{path.delete_prefix("#{ROOT}/")}:#{n + 1}"
          end
        end
      end
      expect(bare.reject { |place| place.match?(%r{core/shot/declarations|core/kernel\.rb}) }).to eq([])
    end

    it "keeps files to one job" do
      long =
        (sources("core") + sources("studio") + sources("server") + sources("away") + sources("cli")).select do |path|
          File.foreach(path).count > 320
        end
      expect(long).to eq([])
    end

    it "names no dial a second time in the front end" do
      labels = Shot::Kinds.all.values.flat_map { |kind| kind.dials.values.map(&:help) }
      front = (sources("web/src", "vue") + sources("web/src", "ts")).map { |path| File.read(path) }.join
      expect(labels.select { |help| front.include?(help) }).to eq([])
    end

    it "can be loaded whole, in whatever order the files come" do
      script = "require #{File.join(ROOT, "lib", "vumbral").inspect}; Vumbral::LOADER.eager_load"
      output, status =
        Open3.capture2e(
          {"BUNDLE_GEMFILE" => File.join(ROOT, "Gemfile")}, RbConfig.ruby, "-rbundler/setup", "-e", script
        )
      expect([status.success?, output[0, 500]]).to eq([true, ""])
    end
  end
end
