# frozen_string_literal: true

module Fobrel
  # `fobrel lock`: what a project stood on, written down, held against and gone back to.
  module LockCommands
    private

    # What a library stands on now.
    def lock_write
      arguments("library with --library", 0..0) do |o|
        output(o)
        in_library(o)
      end
      target = @options[:output] || "fobrel.lock"
      text = studio.lock(library)
      lock = Core::Package::LockFile.parse(text)
      write(target, text)
      answer(
        {file: target, brushes: lock.brushes.size},
        "#{target}: #{lock.brushes.size} brushes of #{lock.to_h["library"]}"
      )
    end

    # Exit 1 where something differs, in a folder of presets (a desk's too) or in a library.
    def lock_verify
      file = argument("lock file") do |o|
        in_library(o)
        o.on("--folder DIR") { @options[:folder] = _1 }
      end
      lock = Core::Package::LockFile.parse(File.binread(file), name: file)
      found = @options[:folder] ? in_folder(lock, @options[:folder]) : studio.hold(library, lock.to_json, plan: true)
      lines = found["differences"].map { |one| said_of(one) }
      answer(found, lines.empty? ? "All #{lock.brushes.size} brushes are as in the lock." : lines)
      lines.empty? ? 0 : 1
    end

    # What is here already in an earlier version comes back; the rest is named.
    def lock_restore
      file = argument("lock file") { in_library(_1) }
      lock = Core::Package::LockFile.parse(File.binread(file), name: file)
      done = studio.hold(library, lock.to_json)
      left = done["differences"].reject { |one| one["kind"] == "more" }
      count = "#{done["back"]} #{(done["back"] == 1) ? "brush" : "brushes"} restored."
      answer(done, [count, *left.map { |one| said_of(one) }])
      left.empty? ? 0 : 1
    end

    def in_folder(lock, folder)
      differences = lock.differences(Core::Package::LockFile.prints(folder))
      {"differences" => differences.map { |one| {"kind" => one.kind, "name" => one.name, "id" => one.id} }}
    end

    def said_of(one) = Core::Package::LockFile::Difference.new(one["kind"], one["id"], one["name"]).to_s
  end
end
