# frozen_string_literal: true

Sequel.migration do
  change do
    # Test strips: the shot as it was, what was varied, and what its runs make.
    create_table(:strips) do
      primary_key :id
      String :shot_id, null: false
      Integer :number, null: false
      String :document, text: true, null: false
      String :axes, text: true, null: false
      String :quality, null: false
      # The frames that each variation has, in order.
      String :keys, text: true, null: false
      Integer :first_frame, null: false
      # Variations that were marked, and those that were dropped, as lists of their places.
      String :marked, null: false, default: "[]"
      String :dropped, null: false, default: "[]"
      Integer :job_id
      Float :created_at, null: false
      index :shot_id
    end
  end
end
