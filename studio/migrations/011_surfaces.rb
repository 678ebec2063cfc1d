# frozen_string_literal: true

Sequel.migration do
  change do
    # What flowed in a liquid's frame, whatever surface was made of it.
    alter_table(:frames) do
      add_column :flow, String
      add_index :flow
    end
  end
end
