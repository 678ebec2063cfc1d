# frozen_string_literal: true

require "digest"
require "fileutils"
require "json"
require "net/http/persistent"

module Vumbral
  module Away
    # The line to the server: asks, fetches and sends, again where it was cut off. Every request carries the token.
    class Link
      # The server was not reached for so long that the work is given up for now.
      Lost = Class.new(StandardError)
      # Bytes that are sent at once, and read at once.
      PIECE, SIP = Studio::Farm::Foreman::PIECE, 1 << 16
      # Seconds before each further try.
      AGAIN = [0.2, 0.5, 1.0, 2.0, 4.0].freeze
      BROKEN = [SystemCallError, IOError, SocketError, Timeout::Error, Net::HTTPBadResponse,
        Net::HTTP::Persistent::Error, OpenSSL::SSL::SSLError].freeze

      # @param server [String] its address
      # @param token [String, nil]; @param machine [String] this machine's id
      # @param bandwidth [Float, nil] bytes a second, at most
      def initialize(server, machine:, token: nil, bandwidth: nil)
        @server = URI(server.to_s.sub(%r{/+\z}, ""))
        unless @server.is_a?(URI::HTTP) && @server.host
          raise Refused.new(
            "#{server.to_s[0, 80].inspect} is no address of a server; give one like https://host:4680.",
            code: "bad_value"
          )
        end

        @machine, @token, @bandwidth = machine, token, bandwidth
        @http = Net::HTTP::Persistent.new(name: "vumbral")
        @http.open_timeout = 5
        @http.read_timeout = 60
        @http.idle_timeout = 30
      rescue URI::Error
        raise Refused.new(
          "#{server.to_s[0, 80].inspect} is no address of a server; give one like https://host:4680.",
          code: "bad_value"
        )
      end

      # @param data [Hash]
      # @return [Hash, nil] what was answered; nothing where there is nothing
      # @raise [Refused] what the server refused; @raise [Lost]
      def ask(path, data = nil, way: data ? "Post" : "Get")
        again { answered(request(way, path, data && JSON.generate(data))) }
      end

      # @return [Boolean] whether the server has a file
      def there?(name)
        code = again { call(request("Head", file(name))).code.to_i.tap { |number| broken(number) } }
        code == 200
      end

      # Fetches a file whole, or goes on where it was cut off.
      # @param name [String] in the server's data folder; @param to [String] where it is put
      # @return [Boolean] whether the server has it
      def fetch(name, to)
        again do
          partial = "#{to}.part"
          FileUtils.mkdir_p(File.dirname(to))
          sum = down(name, partial) or return false
          unless Digest::SHA256.file(partial).hexdigest == sum
            FileUtils.rm_f(partial)
            raise IOError, "came damaged"
          end
          File.rename(partial, to)
          true
        end
      end

      # Sends a file that a job made, in pieces.
      # @raise [Refused] where the job may not; @raise [Lost]
      def send_file(job, name, path)
        size = File.size(path)
        sum = Digest::SHA256.file(path).hexdigest
        at, tries = 0, 0
        loop do
          bytes = paced { File.binread(path, [PIECE, size - at].min, at).to_s }
          found =
            again do
              answered(request("Put", "/api/farm/jobs/#{job}/files/#{name}?at=#{at}&size=#{size}&sum=#{sum}", bytes))
            end
          return if found["done"]

          at = found["have"]
        rescue Refused => error
          raise unless error.code == "damaged" && (tries += 1) < AGAIN.size

          at = 0
        end
      end

      def close = @http.shutdown

      private

      def file(name) = "/api/farm/files/#{name}"

      # @return [String, nil] the whole file's sum; nothing where there is no such file
      def down(name, partial)
        had = File.size?(partial).to_i
        asked = request("Get", file(name))
        asked["Range"] = "bytes=#{had}-" if had.positive?
        sum = nil
        call(asked) do |answer|
          number = answer.code.to_i
          broken(number)
          return nil if number == 404

          FileUtils.rm_f(partial) if number == 416
          answered(answer) unless [200, 206].include?(number)
          sum = answer["x-vumbral-sum"]
          File.open(partial, (number == 206) ? "ab" : "wb") do |out|
            answer.read_body { |bytes| paced(bytes.bytesize) { out.write(bytes) } }
          end
        end
        sum
      end

      def request(way, path, body = nil)
        Net::HTTP.const_get(way).new(path).tap do |made|
          made["X-Vumbral-Machine"] = @machine
          made["Authorization"] = "Bearer #{@token}" if @token
          made["Accept-Encoding"] = "identity"
          next unless body

          made.body = body
          made["Content-Type"] = "application/octet-stream"
        end
      end

      def call(asked, &) = @http.request(@server + asked.path, asked, &)

      def answered(answer)
        answer = call(answer) if answer.is_a?(Net::HTTPRequest)
        number = answer.code.to_i
        broken(number)
        body = answer.body.to_s
        found = body.empty? ? {} : JSON.parse(body)
        return (number == 204) ? nil : found if number < 300

        raise Refused.new(found["error"] || "The server answered #{number}.", code: found["code"] || "refused")
      rescue JSON::ParserError
        raise Refused.new(
          "What answers at #{@server} is not Vumbral; see to the address of the server.", code: "no_server"
        )
      end

      # What may be better in a moment.
      def broken(number) = [500, 502, 503, 504].include?(number) && raise(IOError, "the server answered #{number}")

      def again
        tries ||= 0
        yield
      rescue *BROKEN => error
        unless (wait = AGAIN[tries])
          raise Lost, "The server at #{@server} cannot be reached (#{error.message.lines.first.to_s.strip[0, 100]})."
        end

        tries += 1
        sleep wait
        retry
      end

      # Not faster than it may.
      def paced(bytes = nil)
        began = Process.clock_gettime(Process::CLOCK_MONOTONIC)
        made = yield
        rest = @bandwidth ? (bytes || made.bytesize) / @bandwidth - (Process.clock_gettime(Process::CLOCK_MONOTONIC) - began) : 0
        sleep rest if rest.positive?
        made
      end
    end
  end
end
