# frozen_string_literal: true

Sequel.migration do
  change do
    # The frames of its liquid that a run makes, in order.
    add_column :runs, :liquid_keys, String, text: true, null: false, default: "[]"
    # And those that each variation of a strip makes.
    add_column :strips, :liquid_keys, String, text: true, null: false, default: "[]"
  end
end
