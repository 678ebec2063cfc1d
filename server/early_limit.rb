# frozen_string_literal: true

require "puma"
require "puma/server"

module Vumbral
  module Server
    # Stops a body that is too large before it is read. Puma takes bodies in whole before it asks the
    # application, and its own limit is one for all addresses and answers without a sentence; so the
    # client's one step from head to body is taken here first. {Gate} answers.
    module EarlyLimit
      KEY = "vumbral.too_large"
      JSON_LIMIT = 16 * 1024 * 1024
      FILES = %r{\A/api/(meshes|pictures|drawings|volumes|files)\z}

      # @return [Integer] bytes that a body sent there may have
      def self.at(path) = FILES.match?(path.to_s) ? Studio::Assets::LARGEST : JSON_LIMIT

      # @return [Array(Integer, Integer), nil] length (nil where it is not said) and limit, if too much
      def self.exceeded(env)
        return [nil, nil] if env["HTTP_TRANSFER_ENCODING"]

        length, most = env["CONTENT_LENGTH"].to_i, at(env["PATH_INFO"] || env["REQUEST_PATH"])
        (length > most) ? [length, most] : nil
      end

      # @api private
      module Client
        private

        def setup_body
          exceeded = EarlyLimit.exceeded(@env)
          return super unless exceeded

          @env[KEY] = exceeded
          @env["HTTP_CONNECTION"] = "close"
          @read_header = false
          @buffer = nil
          @body = Puma::Client::EmptyBody
          set_ready
          true
        end
      end

      # Has every client of this process keep the limit.
      def self.install = Puma::Client.prepend(Client)
    end
  end
end
