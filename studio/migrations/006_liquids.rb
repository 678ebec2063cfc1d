# frozen_string_literal: true

Sequel.migration do
  change do
    # The frames of its liquid that a run makes, in order.
    add_column :runs, :liquid_keys, String, text: true, null: false, default: "[]"
  end
end
