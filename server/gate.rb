# frozen_string_literal: true

require "json"
require "rack"

module Vumbral
  module Server
    # Lets in only who belongs here, before anything is done: on this machine, requests that name it as
    # host and do not come from another site's page; from elsewhere, only with the token. What proxies
    # say of a request is not believed.
    class Gate
      LOCAL = %w[localhost 127.0.0.1 [::1]].freeze
      HOST = /\A(?<name>\[[0-9a-f:.]+\]|[^:\[\]\s]+)(?::\d{1,5})?\z/i
      COOKIE = "vumbral_token"
      SAFE = %w[GET HEAD OPTIONS].freeze

      # @param token [String, nil] asked for when set
      def initialize(app, token: nil)
        @app = app
        @token = token
      end

      def call(env)
        unless ours?(env["HTTP_HOST"].to_s)
          return refuse("This address is not Vumbral's; open it as localhost.", "bad_host")
        end
        if !SAFE.include?(env["REQUEST_METHOD"]) && foreign?(env)
          return refuse("Another site's page may not use Vumbral.", "bad_origin")
        end
        unless text?(env["PATH_INFO"]) && text?(env["QUERY_STRING"])
          return refuse("The address is not readable text.", "bad_path", 400)
        end
        return too_large(env) if env[EarlyLimit::KEY]

        # Bodies are JSON or files, whatever they are called, and never forms; but for the page of the engine.
        env["CONTENT_TYPE"] = "application/octet-stream" unless env["PATH_INFO"].start_with?(Engine::AT)
        admit(env)
      end

      private

      def admit(env)
        return @app.call(env) unless @token

        request = Rack::Request.new(env)
        return enter if same?(request.GET["token"])
        if same?(request.cookies[COOKIE]) || same?(env["HTTP_AUTHORIZATION"].to_s.delete_prefix("Bearer "))
          return @app.call(env)
        end

        refuse("A token is needed; open the address that was printed when Vumbral started.", "no_token", 401)
      end

      def ours?(host)
        name = host.match(HOST)&.[](:name)
        name && (@token || LOCAL.include?(name.downcase))
      end

      # Whether a page of somewhere else asks. Another port of this machine is somewhere else too.
      def foreign?(env)
        site = env["HTTP_SEC_FETCH_SITE"]
        return true if site && !%w[same-origin none].include?(site)

        from = env["HTTP_ORIGIN"] || env["HTTP_REFERER"]&.[](%r{\A[a-z][a-z0-9+.-]*://[^/?#]*}i)
        if from
          !%w[http https].map { |scheme| "#{scheme}://#{env["HTTP_HOST"]}" }.include?(from)
        else
          !env["HTTP_REFERER"].to_s.empty?
        end
      end

      def text?(encoded)
        plain = encoded.to_s.b.gsub(/%(\h\h)/n) { $1.hex.chr }.force_encoding(Encoding::UTF_8)
        plain.valid_encoding? && !plain.match?(/[\x00-\x08\x0e-\x1f\x7f]/) && !encoded.to_s.match?(/%(?!\h\h)/)
      end

      def same?(given) = given.is_a?(String) && Rack::Utils.secure_compare(given, @token)

      def enter
        [303, {"location" => "/", "set-cookie" => "#{COOKIE}=#{@token}; HttpOnly; SameSite=Strict; Path=/"}, []]
      end

      def too_large(env)
        length, most = env[EarlyLimit::KEY]
        return refuse("Say how long the body is; it cannot be sent piece by piece.", "no_length", 411) unless length

        refuse(
          "The request has #{length / 1024 / 1024} MB; #{most / 1024 / 1024} MB is the most here.", "file_too_large",
          413
        )
      end

      def refuse(message, code, status = 403)
        [status, {"content-type" => "application/json"}, [JSON.generate(error: message, code: code)]]
      end
    end
  end
end
