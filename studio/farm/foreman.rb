# frozen_string_literal: true

require "digest"
require "fileutils"
require "json"

module Vumbral
  module Studio
    module Farm
      # Gives work to workers of other machines, and takes in what they made. What one says is believed only of the job
      # that it was given.
      class Foreman
        # Bytes that are sent at once, at most.
        PIECE = 8 << 20
        # A job that went wrong elsewhere for these is done by somebody else.
        MOVED = %w[internal no_memory].freeze
        # What is told to who watches a shot.
        TOLD = %w[frame lit strip].freeze
        # What may be made twice and compared.
        TWICE = %w[print element cut tile].freeze
        # So many jobs' rules are remembered.
        KEPT = 64

        def initialize(workshop)
          @workshop = workshop
          @lock = Mutex.new
          @outputs = {}
          @sums = Hash.new { |all, id| all[id] = {} }
        end

        # @param lanes [Array<String>] that its worker does
        # @return [Hash, nil] a {Parcel}; nothing where there is no work
        # @raise [Refused] for another version, or a machine that was let go
        def give(machine_id, version, lanes)
          Version.check(version)
          machine = @workshop.machines.sign(machine_id)
          return if machine[:paused]

          job = claim(lanes & Tickets::LANES, machine) or return
          parcel(job)
        end

        # It is still at it. @return [Hash] :wanted, :held, :waiting (somebody waits for what it holds up)
        def sign(id, machine_id, done: nil, total: nil, note: nil, from_here: false)
          job = own(id, machine_id)
          @workshop.machines.sign(machine_id)
          if done
            @workshop.jobs.progress(job[:id], done, total, note, from_here: from_here)
          else
            @workshop.jobs.renew(job[:id])
          end
          {wanted: !job[:cancel], held: job[:held], waiting: job[:background] && @workshop.jobs.waiting?(job[:lane])}
        end

        # A piece of a file that was made.
        # @param at [Integer] where it begins; @param size [Integer] of the whole; @param sum [String] SHA-256 of the
        #   whole, hexadecimal
        # @return [Hash] :have, how many bytes are here, and whether it is :done
        # @raise [Refused] for what the job may not write, or what came damaged
        def take(id, machine_id, name, bytes, at:, size:, sum:)
          job = own(id, machine_id)
          rules = outputs(job)
          unless rules.allow?(name)
            raise Refused.new("Job #{id} may not write #{name[0, 80].inspect}.", code: "not_allowed")
          end

          staged =
            @workshop.home.within(
              "incoming", "far-#{id}-#{Digest::SHA256.hexdigest([machine_id, name, sum].join(" "))[0, 20]}"
            )
          have = File.size?(staged).to_i
          return {have: have, done: false} unless at == have

          append(staged, bytes)
          have += bytes.bytesize
          (have < size) ? {have: have, done: false} : taken(job, rules, name, staged, sum)
        end

        # A frame that was sent is here: what it took is written down.
        def note_frame(id, machine_id, key, facts)
          job = own(id, machine_id)
          unless outputs(job).allow?("frames/#{key.to_s[0, 2]}/#{key}.frame")
            raise Refused.new("Job #{id} makes no frame #{key.to_s[0, 40].inspect}.", code: "not_allowed")
          end

          @workshop.frames.mend(key, facts)
        end

        # @param kind [String] of {TOLD}
        def tell(id, machine_id, kind, data)
          job = own(id, machine_id)
          @workshop.events.tell(kind, job[:shot_id], **data.transform_keys(&:to_sym)) if TOLD.include?(kind)
        end

        # @param result [Hash] what it came to; @param seconds [Float]
        def finish(id, machine_id, result, seconds)
          job = own(id, machine_id)
          @workshop.machines.worked(machine_id, seconds)
          return if twice(job, machine_id)

          @workshop.jobs.finish(id, Worker.settled(Worker::Task.new(@workshop, job), result))
        rescue Refused => error
          raise if %w[not_yours unknown_job unknown_machine].include?(error.code)

          @workshop.jobs.fail(id, error.message, error.code)
        end

        # It could not be done there.
        def fail(id, machine_id, message, code)
          job = own(id, machine_id)
          if code == "disk_full"
            @workshop.machines.pause(machine_id, "Its disk is full; free some space there and let it go on.")
            @workshop.jobs.release(id)
          elsif MOVED.include?(code) && job[:attempts] < Jobs::MOST_ATTEMPTS
            @workshop.jobs.once_more(
              id, not_by: [job[:not_by], machine_id].compact.join(" "), sums: nil, attempts: job[:attempts]
            )
          else
            @workshop.jobs.fail(id, message, code)
          end
        end

        # It was stopped, or hands the job back.
        def give_back(id, machine_id, cancelled: false)
          own(id, machine_id)
          cancelled ? @workshop.jobs.close(id, "cancelled") : @workshop.jobs.release(id)
        end

        # @param share [Float] of what other machines make that is made twice and compared, 0 to 1
        # @raise [Refused]
        def twice=(share)
          unless share.is_a?(Numeric) && share.between?(0, 1)
            raise Refused.new("The share of work that is done twice goes from 0 to 1.", code: "out_of_range")
          end

          @workshop.home.write(path, JSON.generate(twice: share.to_f))
        end

        # @return [Float] see {#twice=}
        def share_twice = File.exist?(path) ? JSON.parse(File.read(path))["twice"].to_f : 0.0

        # Holds what was made here against what other machines made of it.
        # @param job [Hash] its row, as it was claimed
        def compare(job)
          bad =
            JSON
              .parse(job[:sums])
              .any? do |name, sum|
                !File.exist?(@workshop.home.within(name)) ||
                  Digest::SHA256.file(@workshop.home.within(name)).hexdigest != sum
              end
          distrust(job, job[:not_by].split) if bad
        end

        private

        def path = @workshop.home.within("farm.json")

        # What was asked for a moment ago may be taken here yet.
        def claim(lanes, machine)
          @workshop.jobs.claim(lanes, machine: machine) || begin
            return unless @workshop.jobs.fresh?(lanes)

            sleep Jobs::HEAD_START
            @workshop.jobs.claim(lanes, machine: machine)
          end
        end

        # @raise [Refused] for a job that somebody else has
        def own(id, machine_id)
          job = @workshop.jobs.fetch(id)
          return job if job[:state] == "running" && job[:machine] == machine_id

          raise Refused.new("Job #{id} is not this machine's any more.", code: "not_yours")
        end

        def parcel(job)
          Parcel.new(@workshop, job).to_h
        rescue Refused => error
          @workshop.jobs.fail(job[:id], error.message, error.code)
          nil
        end

        def outputs(job)
          @lock.synchronize do
            @outputs.shift if @outputs.size > KEPT
            @outputs[job[:id]] ||= Outputs.new(@workshop, job)
          end
        end

        def append(staged, bytes)
          FileUtils.mkdir_p(File.dirname(staged))
          File.open(staged, "ab") { |file| file.write(bytes) }
        rescue Errno::ENOSPC, Errno::EDQUOT
          @workshop.home.spend_reserve
          raise Refused.new(Home::FULL, code: "server_full")
        end

        def taken(job, rules, name, staged, sum)
          unless Digest::SHA256.file(staged).hexdigest == sum && rules.right?(name, staged)
            FileUtils.rm_f(staged)
            raise Refused.new("#{File.basename(name)} came damaged; it is sent again.", code: "damaged")
          end
          @lock.synchronize { @sums[job[:id]][name] = sum } if TWICE.include?(job[:kind])
          place = @workshop.home.within(name)
          # What is there under its name is that already; another time a part of an export is written over.
          if File.exist?(place) && !name.start_with?("cuts/")
            return {have: File.size(staged), done: true}.tap { FileUtils.rm_f(staged) }
          end

          FileUtils.mkdir_p(File.dirname(place))
          size = File.size(staged)
          File.rename(staged, place)
          name[%r{\Aframes/\h\h/(\h{32})\.frame\z}, 1]&.then { |key| @workshop.frames.mend(key) }
          {have: size, done: true}
        end

        # @return [Boolean] whether it is made once more
        def twice(job, machine_id)
          sums = @lock.synchronize { @sums.delete(job[:id]) }
          return false unless sums
          if job[:sums] && JSON.parse(job[:sums]) != sums
            return distrust(job, [job[:not_by], machine_id]) && again(job, "*", nil, sums)
          end
          return false if job[:sums] || Random.new(job[:id]).rand >= share_twice

          again(job, machine_id, JSON.generate(sums), sums)
        end

        def again(job, not_by, told, sums)
          sums.each_key { |name| FileUtils.rm_f(@workshop.home.within(name)) }
          @workshop.jobs.once_more(job[:id], not_by: not_by, sums: told)
          true
        end

        def distrust(job, machines)
          machines.compact.reject { |id| id == "*" }.each do |id|
            @workshop.machines.pause(
              id,
              "What it made of job #{job[:id]} (#{job[:kind]}) was not what another machine made of it, so it gets " \
                "no more work."
            )
          rescue Refused
            next
          end
          true
        end
      end
    end
  end
end
