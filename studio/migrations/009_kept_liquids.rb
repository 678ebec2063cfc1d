# frozen_string_literal: true

Sequel.migration do
  # The frames of a kept run's liquid.
  change { add_column :caches, :liquid_keys, String, text: true, null: false, default: "[]" }
end
