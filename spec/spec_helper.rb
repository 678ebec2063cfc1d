# frozen_string_literal: true

ENV["VIPS_WARNING"] ||= "off"

require_relative "../lib/vumbral"
require "tmpdir"
require "json"
require "open3"
require "net/http"
require "socket"
require "stringio"
require "tempfile"
require "timeout"
Dir[File.join(__dir__, "support", "*.rb")].sort.each { |file| require file }

RSpec.configure do |config|
  config.include Vumbral::Fields
  config.include Vumbral::Shots
  config.include Vumbral::Liquids
  config.disable_monkey_patching!
  config.expose_dsl_globally = true
  config.expect_with(:rspec) { |expectations| expectations.max_formatted_output_length = 2000 }
  config.define_derived_metadata(file_path: %r{/spec/browser/}) { |metadata| metadata[:browser] = true }
end
