# frozen_string_literal: true

require "rack/session"
require "securerandom"
require "sidekiq/web"

module Vumbral
  module Server
    # The page of Sidekiq, which calls other machines: its queues, retries and dead calls. Behind {Gate} like all else.
    module Engine
      AT = "/engine"

      # @param app [#call] which answers everywhere else
      # @param url [String] of Redis
      def self.beside(app, url)
        Sidekiq.configure_client { |config| config.redis = {url: url} }
        Sidekiq.default_configuration.logger.level = Logger::ERROR
        page = Rack::Session::Cookie.new(Sidekiq::Web, secret: SecureRandom.hex(32), same_site: true, path: AT)
        Rack::URLMap.new(AT => page, "/" => app)
      end
    end
  end
end
