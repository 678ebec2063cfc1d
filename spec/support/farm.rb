# frozen_string_literal: true

require "puma"
require "puma/server"

module Vumbral
  # A Redis of our own, servers in this process, and workers that know nothing but their address.
  module FarmHelp
    class << self
      # @return [String] address of a Redis that is only for specs
      def redis
        @redis ||= begin
          @folder = Dir.mktmpdir
          port = free_port
          @pid =
            Process.spawn(
              "redis-server", "--port", port.to_s, "--bind", "127.0.0.1", "--save", "", "--appendonly", "no", "--dir",
              @folder, "--requirepass", "open-sesame-of-ours", %i[out err] => File::NULL
            )
          "redis://:open-sesame-of-ours@127.0.0.1:#{port}/0".tap { |url| wait(url) }
        end
      end

      def free_port = TCPServer.open("127.0.0.1", 0) { |server| server.addr[1] }

      def stop
        return unless @redis

        Process.kill(:TERM, @pid)
        Process.wait(@pid)
        FileUtils.rm_rf(@folder)
        @redis = nil
      end

      private

      def wait(url)
        Timeout.timeout(20) do
          while Studio::Farm::Tickets
              .new(url, "spec")
              .trouble
              .tap { |trouble| sleep Studio::Farm::Tickets::LOOK / 20 if trouble }
            sleep 0.05
          end
        end
      end
    end

    # @yield [address] of a server on a workshop
    def serving(workshop, token: nil)
      app = Server::Gate.new(Server::App.new(workshop, Server::Broadcast.new(workshop)), token: token)
      server = Puma::Server.new(app, nil, {min_threads: 1, max_threads: 4, log_writer: Puma::LogWriter.null})
      port = server.add_tcp_listener("127.0.0.1", 0).addr[1]
      server.run
      yield "http://127.0.0.1:#{port}"
    ensure
      server&.stop(true)
    end

    MACHINE = {"name" => "Anvil", "cores" => 2, "memory" => 4 << 30, "speed" => 1.0}.freeze

    # A worker with a folder of its own.
    # @return [Away::Hand]
    def hand(address, folder, id: "0123456789ab", token: nil, lanes: Studio::Farm::Tickets::LANES)
      link = Away::Link.new(address, machine: id, token: token)
      Away::Hand.new(Away::Workshop.new(folder, link), MACHINE.merge("id" => id), lanes: lanes).tap(&:greet)
    end

    # Makes it seem as if another machine worked for a workshop.
    def helped(workshop, id = "0123456789ab")
      workshop.machines.welcome(MACHINE.merge("id" => id)).tap { workshop.db[:jobs].where(kind: "gauge").delete }
    end

    # All files of a folder with what is in them, by their names.
    def contents(workshop, folder)
      Dir[File.join(workshop.home.within(folder), "**", "*")]
        .select { |file| File.file?(file) }
        .to_h { |file| [file.delete_prefix("#{workshop.home.path}/"), Digest::SHA256.file(file).hexdigest] }
    end
  end
end

RSpec.configure do |config|
  config.include Vumbral::FarmHelp
  config.after(:suite) { Vumbral::FarmHelp.stop }
end
