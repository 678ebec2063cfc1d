# frozen_string_literal: true

Sequel.migration do
  change do
    # Parts of other work; the machine elsewhere that does it; bytes of memory that it takes; what was made once already
    # and by whom, where it is made twice.
    alter_table(:jobs) do
      add_column :parent_id, Integer
      add_column :part, Integer
      add_column :machine, String
      add_column :memory, :bigint
      add_column :sums, String, text: true
      add_column :not_by, String
      add_index :parent_id
    end

    create_table(:machines) do
      String :id, primary_key: true
      String :name, null: false
      Integer :cores, null: false
      bigint :memory, null: false
      Float :speed
      Float :seen_at, null: false
      Float :since, null: false
      TrueClass :paused, null: false, default: false
      Integer :done, null: false, default: 0
      Float :seconds, null: false, default: 0.0
      String :trouble, text: true
    end
  end
end
