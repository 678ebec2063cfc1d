# frozen_string_literal: true

module Vumbral
  module Studio
    # One data folder with everything that works on it. The server, the workers and the command
    # line each open one.
    class Workshop
      attr_reader :home, :db

      # @param redis [String, nil] address of the Redis that calls workers of other machines, if there is one
      def initialize(path, redis: ENV["VUMBRAL_REDIS"])
        @home = Home.new(path)
        @db = Database.open(@home.database)
        @redis = redis unless redis.to_s.empty?
      end

      def shots = @shots ||= Shots.new(self)

      def assets = @assets ||= Assets.new(self)

      def fitting = @fitting ||= Fitting.new(self)

      def arrivals = @arrivals ||= Arrivals.new(self)

      def jobs = @jobs ||= tickets ? Farm::TicketJobs.new(self, tickets) : Jobs.new(self)

      # @return [Farm::Tickets, nil]
      def tickets = @tickets ||= @redis && Farm::Tickets.new(@redis, @home.id)

      def machines = @machines ||= Farm::Machines.new(self)

      def foreman = @foreman ||= Farm::Foreman.new(self)

      def runs = @runs ||= Runs.new(self)

      def past_runs = @past_runs ||= PastRuns.new(self)

      def clips = @clips ||= Clips.new(self)

      def live_draft = @live_draft ||= LiveDraft.new(self)

      def history = @history ||= History.new(self)

      def caches = @caches ||= Caches.new(self)

      def frames = @frames ||= FrameStore.new(self)

      def bodies = @bodies ||= Bodies.new(self)

      def strengths = @strengths ||= Strengths.new(self)

      def glimpses = @glimpses ||= Glimpses.new(self)

      def views = @views ||= Views.new(self)

      def painting = @painting ||= Painting.new(self)

      def elements = @elements ||= Elements.new(self)

      def plates = @plates ||= Plates.new(self)

      def tracking = @tracking ||= Tracking.new(self)

      def presets = @presets ||= Presets.new(self)

      def queue = @queue ||= Queue.new(self)

      def room = @room ||= Room.new(self)

      def sightings = @sightings ||= Sightings.new(self)

      def finishing = @finishing ||= Finishing.new(self)

      def prints = @prints ||= Prints.new(self)

      def balances = @balances ||= Balances.new(self)

      def swatches = @swatches ||= Swatches.new(self)

      def glances = @glances ||= Glances.new(self)

      def liquids = @liquids ||= Liquids.new(self)

      def sculpts = @sculpts ||= Sculpts.new(self)

      def following = @following ||= Following.new(self)

      def surfaces = @surfaces ||= Surfaces.new(self)

      def placing = @placing ||= Placing.new(self)

      def fog_views = @fog_views ||= FogViews.new(self)

      def sheets = @sheets ||= Sheets.new(self)

      def strips = @strips ||= Strips.new(self)

      def reels = @reels ||= Reels.new(self)

      def holdings = @holdings ||= Holdings.new(self)

      def bundles = @bundles ||= Bundles.new(self)

      def exports = @exports ||= Exports.new(self)

      def events = @events ||= Events.new(self)

      def preflights = @preflights ||= Preflights.new(self)

      def forecast = @forecast ||= Forecast.new(self)

      def machine = @machine ||= Machine.new

      # Whether this is not the data folder itself, but what a machine elsewhere has of it.
      def elsewhere? = false

      def now = Time.now.to_f
    end
  end
end
