# frozen_string_literal: true

require "logger"
require "sidekiq"
require "sidekiq/api"

module Vumbral
  module Studio
    module Farm
      # Calls workers of other machines through Sidekiq's queues on Redis. A ticket says no more than that there is work
      # of a lane; which it is, is asked for with it, so that a ticket too many costs nothing and one that was lost is
      # made anew.
      class Tickets
        # What works one off.
        WORKER = "Vumbral::Studio::Farm::Ticket"
        # So often a ticket is tried again by Sidekiq, where its worker could not reach the server.
        RETRIES = 8
        # What was found of Redis holds so long, seconds.
        LOOK = 2.0
        # Nobody waits longer for it, seconds.
        PATIENCE = 1.0
        LANES = %w[short part long].freeze

        # @return [String] of a lane's queue; several servers may have one Redis
        def self.queue(home, lane) = "vumbral-#{home}-#{lane}"

        # @param timeout [Float, nil] seconds; Redis' own where somebody waits there for calls
        # @return [Sidekiq::Config] for one Redis, told in no log
        def self.config(url, timeout: PATIENCE)
          raise ArgumentError unless %w[redis rediss].include?(URI(url.to_s).scheme)

          Sidekiq::Config.new.tap do |config|
            config.redis = {url: url, timeout: timeout, reconnect_attempts: 1}.compact
            config.logger = Logger.new(File::NULL)
          end
        rescue ArgumentError, URI::Error
          raise Refused.new(
            "#{url.to_s[0, 80].inspect} is no address of a Redis; give one like redis://host:6379/0.",
            code: "bad_value"
          )
        end

        # What an error of Redis means, for people. @return [String]
        def self.words(error, url)
          place = url.to_s.sub(%r{//[^@/]*@}, "//")
          case error.message
          when /WRONGPASS|NOAUTH|invalid password|invalid username/i
            "Redis at #{place} does not take the password; give the right one in its address (redis://:password@host)."
          when /OOM|MISCONF|READONLY|LOADING/
            "Redis at #{place} takes nothing now (#{error.message.lines.first.strip[0, 80]}); see to its memory and " \
              "its disk."
          else
            "Redis at #{place} cannot be reached; work goes on here, and elsewhere as soon as it is back."
          end
        end

        attr_reader :url

        # @param url [String] redis://…; @param home [String] the data folder's own name
        def initialize(url, home)
          @url, @home = url, home
          @config = Tickets.config(url)
          @lock = Mutex.new
        end

        # @raise [Refused] where Redis is not there
        def check
          looked(Process.clock_gettime(Process::CLOCK_MONOTONIC))
          raise Refused.new(@trouble, code: "no_redis") if @trouble
        end

        # @return [String, nil] a sentence while Redis is not there
        def trouble
          now = Process.clock_gettime(Process::CLOCK_MONOTONIC)
          looked(now) unless @looked && now - @looked < LOOK
          @trouble
        end

        # @param lane [String]; @return [Boolean] whether somebody can be called
        def issue(lane, count = 1)
          return false if trouble

          told do
            count.times do
              client.push(
                "class" => WORKER, "queue" => Tickets.queue(@home, lane), "args" => [Version.own, lane],
                "retry" => RETRIES
              )
            end
          end
        end

        # Takes a ticket back, where work was begun here.
        def take(lane) =
          !trouble && told { @config.redis { |redis| redis.call("RPOP", "queue:#{Tickets.queue(@home, lane)}") } }

        # @return [Integer, nil] tickets of a lane that nobody has taken
        def size(lane) =
          if trouble
            nil
          else
            told { @config.redis { |redis| redis.call("LLEN", "queue:#{Tickets.queue(@home, lane)}") } } || nil
          end

        private

        def client = @client ||= Sidekiq::Client.new(config: @config)

        def looked(now)
          @lock.synchronize do
            @config.redis { |redis| redis.call("PING") }
            @trouble = nil
          rescue RedisClient::Error, SystemCallError => error
            @trouble = Tickets.words(error, @url)
          ensure
            @looked = now
          end
        end

        # @return what the block gives; false where Redis has gone
        def told
          yield
        rescue RedisClient::Error, SystemCallError => error
          @lock.synchronize do
            @trouble, @looked = Tickets.words(error, @url), Process.clock_gettime(Process::CLOCK_MONOTONIC)
          end
          false
        end
      end
    end
  end
end
