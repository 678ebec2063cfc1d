# frozen_string_literal: true

require "yaml"

module Vumbral
  # What is meant to be copied must be right.
  RSpec.describe "Examples for more machines" do
    def file(name) = File.join(ROOT, "deploy", name)

    let(:options) do
      CLI::Commands
        .commands
        .slice("serve", "worker")
        .transform_values { |command| command.options.keys.map { |name| name.to_s.tr("_", "-") } + %w[home json] }
    end

    # Each option of a command line is one that the command has.
    def expect_known(words)
      command = words[words.index { |word| word.end_with?("bin/vumbral") } + 1]
      expect(words.grep(/\A--/).map { |word| word.delete_prefix("--") } - options.fetch(command)).to eq([])
    end

    it "has a composition of containers that can be read" do
      compose = YAML.safe_load_file(file("compose.yaml"), aliases: true)
      expect(compose["services"].keys).to eq(%w[redis server worker])
      compose["services"].slice("server", "worker").each_value { |service| expect_known(service["command"]) }
      expect(
        compose["services"].values.flat_map { |service| service["depends_on"].to_a } - compose["services"].keys
      ).to eq([])
    end

    %w[vumbral.service vumbral-worker.service].each do |name|
      it "has #{name}, which systemd takes" do
        text = File.read(file(name))
        expect_known(text[/^ExecStart=(.*)$/, 1].split)
        sections = text.scan(/^\[(\w+)\]$/).flatten
        expect(sections).to eq(%w[Unit Service Install])
        expect(text.lines.grep(/\A[^#\[\n]/)).to all(match(/\A[A-Z]\w+=\S/))
        skip "systemd is not here" unless system("command -v systemd-analyze > /dev/null")

        Dir.mktmpdir do |folder|
          # The program and its user are elsewhere on this machine.
          File.write(
            File.join(folder, name),
            text
              .gsub("/opt/vumbral", ROOT)
              .gsub("User=vumbral", "User=root")
              .sub(/^EnvironmentFile=/, "EnvironmentFile=-")
          )
          said, =
            Open3.capture2e(
              {"SYSTEMD_LOG_LEVEL" => "warning"}, "systemd-analyze", "verify", "--man=no", File.join(folder, name)
            )
          expect(said.lines.grep(/#{Regexp.escape(name)}/)).to eq([])
        end
      end
    end

    it "has a page in the guide whose options there are" do
      page = File.read(File.join(ROOT, "docs", "guide", "machines.md"))
      page.scan(%r{bin/vumbral [^\n]*}).each { |line| expect_known(line.split) }
      expect(page.scan(/`--(\w+)`/).flatten - options["worker"]).to eq([])
    end
  end
end
