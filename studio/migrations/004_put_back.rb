# frozen_string_literal: true

Sequel.migration do
  change do
    # What was taken away, and when: it can be put back until it is let go.
    alter_table(:shots) { add_column :away_at, Float }
    alter_table(:prints) { add_column :away_at, Float }
  end
end
