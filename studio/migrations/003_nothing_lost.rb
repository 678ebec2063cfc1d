# frozen_string_literal: true

Sequel.migration do
  up do
    # Names and numbers that were given out once are not given out again: what was kept under them,
    # here or in a browser, would show in another's place.
    create_table(:used_ids) { String :id, primary_key: true }
    from(:used_ids).insert(from(:shots).select(:id))
    alter_table(:shots) do
      add_column :last_print, Integer, null: false, default: 0
      # Who moved the head last.
      add_column :moved_by, String
    end
    from(:shots).update(
      last_print: from(:prints).where(shot_id: Sequel[:shots][:id]).select { coalesce(max(:number), 0) }
    )
    alter_table(:revisions) { add_column :by, String }
    alter_table(:runs) { add_column :first_frame, Integer }
    # Work in the background makes way for what somebody asked for.
    alter_table(:jobs) do
      add_column :background, TrueClass, null: false, default: false
      # Given back or cut off, and taken up again.
      add_column :resumed, TrueClass, null: false, default: false
      # How far it was when it was taken up last: its pace is counted from there.
      add_column :base, Integer, null: false, default: 0
    end
  end

  down do
    drop_table(:used_ids)
    alter_table(:shots) do
      drop_column :last_print
      drop_column :moved_by
    end
    alter_table(:revisions) { drop_column :by }
    alter_table(:runs) { drop_column :first_frame }
    alter_table(:jobs) do
      drop_column :background
      drop_column :resumed
      drop_column :base
    end
  end
end
