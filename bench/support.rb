# frozen_string_literal: true

ENV["BUNDLE_GEMFILE"] ||= File.expand_path("../Gemfile", __dir__)
ENV["BUNDLE_WITHOUT"] ||= "development:test"
require "bundler/setup"
require_relative "../lib/vumbral"

module Vumbral
  # Honest timing: the median of several runs, after one that is not counted.
  module Bench
    module_function

    def seconds
      began = Process.clock_gettime(Process::CLOCK_MONOTONIC)
      yield
      Process.clock_gettime(Process::CLOCK_MONOTONIC) - began
    end

    def median(runs, &work)
      work.call
      Array.new(runs) { seconds(&work) }.sort[runs / 2]
    end
  end
end
