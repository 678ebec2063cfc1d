# frozen_string_literal: true

module Vumbral
  module Shot
    module Declarations
      # Of boxes that something is computed in.
      module Carried
        # @param kind [Kind] that is being declared
        def self.declare(kind)
          kind.instance_exec do
            node :leader, "Goes with", default: nil, of: :prop,
              help: "A prop that takes the box along: it stands as that has it on the first frame, upright and of " \
                "its own size, and stays there through the shot."
          end
        end
      end
    end
  end
end
