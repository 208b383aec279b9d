# frozen_string_literal: true

module Fobrel
  module Demo
    # The demo's workplaces: a template for the whole studio, two below it, four desks, and what became of them: one is
    # current, one behind, one was altered by hand, one is a laptop elsewhere.
    module Desks
      TEMPLATES = {
        "Whole studio" => [nil, ["Quay line", "Chart nib", "Harbour fog"], ["Slate chalk"]],
        "Skerrow, line" => ["Whole studio", ["Tide line", "Mast contour", "Rain hatch"], ["Splice pen"]],
        "Skerrow, grounds" => ["Whole studio", ["Wet slate", "Cobblestones", "Sailcloth"], ["Sea mist"]]
      }.freeze
      DESKS = {
        "Background desk" => ["Skerrow, grounds", "Upstairs", "Linux", 60, "tove"],
        "Line desk 1" => ["Skerrow, line", "Upstairs", "Windows", 40, "tove"],
        "Line desk 2" => ["Skerrow, line", "Upstairs", "Windows", 40, nil],
        "Laptop, Ilse" => ["Whole studio", "On the road", "macOS", 30, "ilse"]
      }.freeze
      KEYS = {
        "Quay line" => "1",
        "Chart nib" => "2",
        "Harbour fog" => "3",
        "Tide line" => "4",
        "Mast contour" => "6"
      }.freeze
      RESERVED = {"5" => "turn the canvas", "Ctrl+S" => "save"}.freeze
      Line = Models::Desk::Line

      class << self
        # @param library [Models::Library]
        # @param presets [Hash{String => Models::Preset}] by name
        # @param people [Hash{String => Models::Person}] by login
        def furnish(library, presets, people)
          @presets = presets
          @library = library
          library.update_columns(reserved_keys: RESERVED)
          TEMPLATES.each { |name, (above, startup, shelf)| template(name, above, startup, shelf) }
          DESKS.each { |name, (from, room, platform, memory, login)|
            desk(name, from, room, platform, memory, people[login])
          }
          own_changes(library.desks.find_by!(name: "Line desk 1"))
          send_to_desk(people["maren"])
        end

        # What happened since: one has the newest, in the folder of another somebody was at work.
        #
        # @param library [Models::Library]
        # @param person [Models::Person]
        def go_on(library, person)
          newest = library.desks.find_by!(name: "Background desk")
          Actions::SendToDesk.call(desk: newest, person:, why: "Softer fog")
          Models::DeskFolder.new(newest).pull
          alter(library)
        end

        private

        def alter(library)
          desk = library.desks.find_by!(name: "Line desk 2")
          folder = File.join(desk.path, "startup")
          nib = Dir.glob("*Chart nib.json", base: folder).first
          change(File.join(folder, nib)) { |brush| brush["tip"]["size"]["base"] = 34 }
          File.delete(File.join(folder, Dir.glob("*Tide line.json", base: folder).first))
          own = JSON.parse(File.read(File.join(folder, Dir.glob("*Quay line.json", base: folder).first)))
          own["name"] = "Quay line, for the far bank"
          own["id"] = SecureRandom.uuid
          own["tip"]["size"]["base"] = 6
          File.write(File.join(folder, "far bank.json"), JSON.pretty_generate(own))
          File.write(File.join(desk.path, "note.txt"), "The far bank one is mine. Tove\n")
          Models::DeskFolder.new(desk).look
        end

        def template(name, above, startup, shelf)
          parent = above && @library.templates.find_by!(name: above)
          plan(make(name, template: true, parent:), startup, shelf)
        end

        def desk(name, from, room, platform, memory_limit, person)
          parent = @library.templates.find_by!(name: from)
          make(name, parent:, room:, platform:, memory_limit:, start_limit: 1500, person:, away: room == "On the road")
        end

        def make(name, **more)
          Models::Desk.create!(
            library: @library,
            name:,
            folder: Models::Desk.free_folder(@library, name),
            **more
          ).tap(&:settle)
        end

        def plan(desk, startup, shelf)
          lines = {"startup" => startup, "shelf" => shelf}.flat_map { |part, names|
            names.map { |name| Line.new(thing: thing(name), part:) }
          }
          desk.lines = desk.lines + lines
          desk.key_of = desk.key_of.merge(startup.filter_map { |name| KEYS[name] && [id(name), KEYS[name]] }.to_h)
          desk.save!
          desk.settle
        end

        # One more brush, one fewer, another key.
        def own_changes(desk)
          kept = desk.lines.reject { |line| line.thing == thing("Rain hatch") }
          desk.lines = kept + [Line.new(thing: thing("Gull feather"), part: "startup")]
          desk.key_of = desk.key_of.merge(id("Gull feather") => "7")
          desk.save!
          desk.settle
        end

        def send_to_desk(person)
          @library.desks.where(away: false).order(:name).each do |desk|
            Actions::SendToDesk.call(desk:, person:, why: "First storm shots")
            Models::DeskFolder.new(desk).pull(repair: true)
          end
        end

        def change(path)
          brush = JSON.parse(File.read(path))
          yield brush
          File.write(path, JSON.pretty_generate(brush))
        end

        def thing(name) = "brush/#{id(name)}"

        def id(name) = @presets.fetch(name).document_id
      end
    end
  end
end
