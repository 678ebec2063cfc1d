# frozen_string_literal: true

module Vumbral
  module Studio
    module Farm
      # Surfaces of a liquid's frames that other machines make while the run goes on: where they are fine, for coarse
      # ones take no longer than their particles take to be sent.
      class Skins
        # Points of the surface's grid for each particle from which on it is fine.
        FINE = 8.0

        # @param task [Worker::Task] of the run; @param plan [Liquid::Plan]
        # @yield [frame, key] as soon as one is there
        def initialize(task, plan, &told)
          @task, @plan, @told = task, plan, told
          @workshop = task.workshop
          @open = {}
        end

        # @param drops [Integer] particles
        # @return [Boolean] whether somebody has the time for one that is worth it
        def wanted?(drops)
          points = @plan.cells * @plan.surface["grain"]**3
          points >= FINE * drops && @workshop.machines.working.size > waiting.size
        end

        # Has the surface of what a frame keeps made elsewhere.
        def hand_over(frame, key, facts)
          id =
            @workshop.jobs.add(
              "skin", @task.shot,
              {document: @plan.document.to_json, quality: @plan.quality.to_s, frame: frame, key: key, facts: facts},
              of: [@task.id, frame]
            )
          @open[id] = [frame, key]
        end

        # Tells of those that are there by now.
        def look
          return if @open.empty?

          ended =
            @workshop
              .jobs
              .parts(@task.id)
              .where(id: @open.keys)
              .exclude(state: %w[queued running])
              .select_map(%i[id state error code])
          ended.each do |id, state, error, code|
            frame, key = @open.delete(id)
            unless state == "done"
              raise Refused.new(
                error || "The surface of frame #{frame} was stopped; run it again.", code: code || "cancelled"
              )
            end

            @told.call(frame, key)
            @workshop.db[:jobs].where(id: id).delete
          end
        end

        # Waits for all, and makes those that nobody has begun.
        def finish
          until @open.empty?
            @task.check
            id = waiting.first
            id ? Worker.new(@workshop).run_one(id) : sleep(Division::PAUSE)
            look
          end
        end

        # Where the run is cut off: what nobody has begun is made when it goes on.
        def leave
          waiting.each do |id|
            @workshop.jobs.cancel(id)
            @workshop.holdings.let_go([@open[id][1]])
          end
        end

        private

        def waiting =
          @open.empty? ? [] : @workshop.jobs.parts(@task.id).where(id: @open.keys, state: "queued").select_map(:id)
      end
    end
  end
end
