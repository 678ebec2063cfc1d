# frozen_string_literal: true

Sequel.migration do
  change do
    create_table(:shots) do
      String :id, primary_key: true
      String :name, null: false
      Integer :head, null: false, default: 0
      Float :created_at, null: false
      Float :changed_at, null: false
    end

    # A tree of documents: undo goes to the parent, redo back along the branch last left.
    create_table(:revisions) do
      String :shot_id, null: false
      Integer :number, null: false
      Integer :parent
      Integer :redo
      String :label, null: false
      String :document, text: true, null: false
      Float :at, null: false
      primary_key %i[shot_id number]
    end

    create_table(:jobs) do
      primary_key :id
      String :kind, null: false
      String :lane, null: false
      String :shot_id
      String :payload, text: true, null: false
      String :state, null: false, default: "queued"
      Integer :done, null: false, default: 0
      Integer :total, null: false, default: 0
      String :note
      String :error, text: true
      String :code
      String :result, text: true
      Integer :attempts, null: false, default: 0
      TrueClass :cancel, null: false, default: false
      Integer :worker
      Float :lease
      Float :created_at, null: false
      Float :started_at
      Float :finished_at
      index %i[state lane]
      index :shot_id
    end

    create_table(:runs) do
      primary_key :id
      String :shot_id, null: false
      Integer :number, null: false
      String :quality, null: false
      Integer :revision, null: false
      Integer :job_id
      String :keys, text: true, null: false
      Integer :cells, null: false
      Float :created_at, null: false
      index :shot_id
    end

    create_table(:frames) do
      String :key, primary_key: true
      Integer :frame, null: false
      Integer :bytes, null: false
      TrueClass :checkpoint, null: false, default: false
      String :facts, text: true, null: false
    end

    create_table(:prints) do
      primary_key :id
      String :shot_id, null: false
      Integer :number, null: false
      Integer :frame, null: false
      String :quality, null: false
      Integer :width, null: false
      Integer :height, null: false
      Float :seconds, null: false
      String :changed, text: true, null: false
      String :document, text: true, null: false
      Float :created_at, null: false
      index %i[shot_id number], unique: true
    end

    create_table(:assets) do
      String :digest, primary_key: true
      String :name, null: false
      String :facts, text: true, null: false
      Float :created_at, null: false
    end

    create_table(:events) do
      primary_key :id
      String :shot_id
      String :kind, null: false
      String :data, text: true, null: false
      Float :at, null: false
    end
  end
end
