# frozen_string_literal: true

require "digest"

module Vumbral
  module Studio
    module Farm
      # What all machines that work together must have alike, so that a frame is the same wherever it is made.
      module Version
        # Whose text counts: what computes, and what carries work out.
        SOURCES = %w[core studio away].freeze

        module_function

        # @return [String] the same for the same program
        def own
          @own ||= Digest::SHA256.new.tap { |sum|
            SOURCES
              .flat_map { |folder| Dir[File.join(ROOT, folder, "**", "*.rb")].sort }
              .each { |file| sum << file.delete_prefix(ROOT) << File.read(file) }
          }.hexdigest[0, 12]
        end

        # @raise [Refused] for another one
        def check(other)
          return if other == own

          raise Refused.new(
            "This worker is of another version of Vumbral (#{other.to_s[0, 12].inspect}, the server has " \
              "#{own}), and might make other frames; update both to the same one.",
            code: "other_version"
          )
        end
      end
    end
  end
end
