# frozen_string_literal: true

Sequel.migration do
  change do
    # Those of a higher rank come first; those that are held back wait until they are let go on.
    add_column :jobs, :rank, Integer, null: false, default: 0
    add_column :jobs, :held, TrueClass, null: false, default: false
  end
end
