# frozen_string_literal: true

require "json"
require "rack"
require "rack/protection"

module Vumbral
  module Server
    # Lets in only who belongs here: on this machine, requests that name it as host and do not
    # come from another site's page; from elsewhere, only with the token.
    class Gate
      LOCAL = %w[localhost 127.0.0.1 ::1 [::1]].freeze
      COOKIE = "vumbral_token"

      # @param token [String, nil] asked for when set
      def initialize(app, token: nil)
        @app = app
        @token = token
      end

      def call(env)
        request = Rack::Request.new(env)
        return refuse("This address is not Vumbral's; open it as localhost.", "bad_host") unless @token || LOCAL.include?(request.host)
        return refuse("Another site's page may not use Vumbral.", "bad_origin") if foreign?(request)
        return @app.call(env) unless @token
        return enter(request) if same?(request.GET["token"])
        return @app.call(env) if same?(request.cookies[COOKIE]) || same?(env["HTTP_AUTHORIZATION"].to_s.delete_prefix("Bearer "))

        refuse("A token is needed; open the address that was printed when Vumbral started.", "no_token", 401)
      end

      private

      def foreign?(request)
        origin = request.get_header("HTTP_ORIGIN")
        !request.get? && origin && URI(origin).host != request.host
      rescue URI::InvalidURIError
        true
      end

      def same?(given) = given && Rack::Utils.secure_compare(given, @token)

      def enter(request)
        [303, {"location" => "/", "set-cookie" => "#{COOKIE}=#{@token}; HttpOnly; SameSite=Strict; Path=/"}, []]
      end

      def refuse(message, code, status = 403)
        [status, {"content-type" => "application/json"}, [JSON.generate(error: message, code: code)]]
      end
    end
  end
end
