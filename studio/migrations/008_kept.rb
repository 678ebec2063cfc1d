# frozen_string_literal: true

Sequel.migration do
  change do
    # What differs from the run before, in one line.
    add_column :runs, :changed, String, text: true, null: false, default: ""
    # Where the shot stood when a print was taken, and what somebody says of it.
    alter_table(:prints) do
      add_column :revision, Integer
      add_column :starred, TrueClass, null: false, default: false
      add_column :name, String, null: false, default: ""
      add_column :note, String, text: true, null: false, default: ""
    end
    # Frames of runs that somebody wants to keep, whatever becomes of the shot.
    create_table(:caches) do
      String :digest, primary_key: true
      String :name, null: false
      String :note, text: true, null: false, default: ""
      # Where it comes from: a run, or a variation of a test strip.
      String :shot_id, null: false
      Integer :run_id
      Integer :strip_id
      Integer :cell
      String :quality, null: false
      String :document, text: true, null: false
      Integer :first_frame, null: false
      # Metres.
      Float :voxel, null: false
      String :keys, text: true, null: false
      Float :created_at, null: false
      index :shot_id
    end
  end
end
