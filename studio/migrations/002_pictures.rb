# frozen_string_literal: true

Sequel.migration do
  change do
    # A mesh, or a picture that a source takes its strength from.
    alter_table(:assets) { add_column :kind, String, null: false, default: "mesh" }
  end
end
