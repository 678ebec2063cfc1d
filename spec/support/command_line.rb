# frozen_string_literal: true

module Vumbral
  # The commands, carried out in this process, on the data folder `home`.
  module CommandLine
    # @return [Array(String, String, Integer)] output, errors, exit code
    def run(*words, input: nil)
      output, errors = $stdout, $stderr
      given = $stdin
      $stdout, $stderr = StringIO.new, StringIO.new
      $stdin = StringIO.new(input) if input
      code = begin
        CLI::Commands.start([*words, "--home", home])
        0
      rescue SystemExit => exit
        exit.status
      end
      [$stdout.string, $stderr.string, code]
    ensure
      $stdout, $stderr, $stdin = output, errors, given
    end
  end
end
