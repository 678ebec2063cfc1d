# frozen_string_literal: true

module Vumbral
  module Liquid
    # What the substeps of a frame found out, added up.
    Tally = Struct.new(:substeps, :iterations, :residual, :left, :poured, :limited)
  end
end
