# frozen_string_literal: true

module Fobrel
  module Demo
    # The demo's workplaces: a template for the whole studio, two below it, four seats, and what became of them: one is
    # current, one behind, one was altered by hand, one is a laptop elsewhere.
    module Seats
      TEMPLATES = {
        "Whole studio" => [nil, ["Quay line", "Chart nib", "Harbour fog"], ["Slate chalk"]],
        "Skerrow, line" => ["Whole studio", ["Tide line", "Mast contour", "Rain hatch"], ["Splice pen"]],
        "Skerrow, grounds" => ["Whole studio", ["Wet slate", "Cobblestones", "Sailcloth"], ["Sea mist"]]
      }.freeze
      SEATS = {
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
      Line = Models::Seat::Line

      class << self
        # @param library [Models::Library]
        # @param presets [Hash{String => Models::Preset}] by name
        # @param people [Hash{String => Models::Person}] by login
        def furnish(library, presets, people)
          @presets = presets
          @library = library
          library.update_columns(reserved_keys: RESERVED)
          TEMPLATES.each { |name, (above, startup, shelf)| template(name, above, startup, shelf) }
          SEATS.each { |name, (from, room, platform, memory, login)|
            seat(name, from, room, platform, memory, people[login])
          }
          own_changes(library.seats.find_by!(name: "Line desk 1"))
          hand_out(people["maren"])
        end

        # What happened since: one has the newest, in the folder of another somebody was at work.
        #
        # @param library [Models::Library]
        # @param person [Models::Person]
        def go_on(library, person)
          newest = library.seats.find_by!(name: "Background desk")
          Actions::HandOut.call(seat: newest, person:, why: "Softer fog")
          Models::SeatFolder.new(newest).pull
          alter(library)
        end

        private

        def alter(library)
          seat = library.seats.find_by!(name: "Line desk 2")
          folder = File.join(seat.path, "startup")
          nib = Dir.glob("*Chart nib.json", base: folder).first
          change(File.join(folder, nib)) { |brush| brush["mark"]["size"]["base"] = 34 }
          File.delete(File.join(folder, Dir.glob("*Tide line.json", base: folder).first))
          own = JSON.parse(File.read(File.join(folder, Dir.glob("*Quay line.json", base: folder).first)))
          own["name"] = "Quay line, for the far bank"
          own["id"] = SecureRandom.uuid
          own["mark"]["size"]["base"] = 6
          File.write(File.join(folder, "far bank.json"), JSON.pretty_generate(own))
          File.write(File.join(seat.path, "note.txt"), "The far bank one is mine. Tove\n")
          Models::SeatFolder.new(seat).look
        end

        def template(name, above, startup, shelf)
          parent = above && @library.templates.find_by!(name: above)
          plan(make(name, template: true, parent:), startup, shelf)
        end

        def seat(name, from, room, platform, memory_limit, person)
          parent = @library.templates.find_by!(name: from)
          make(name, parent:, room:, platform:, memory_limit:, start_limit: 1500, person:, away: room == "On the road")
        end

        def make(name, **more)
          Models::Seat.create!(
            library: @library,
            name:,
            folder: Models::Seat.free_folder(@library, name),
            **more
          ).tap(&:settle)
        end

        def plan(seat, startup, shelf)
          lines = {"startup" => startup, "shelf" => shelf}.flat_map { |part, names|
            names.map { |name| Line.new(thing: thing(name), part:) }
          }
          seat.lines = seat.lines + lines
          seat.key_of = seat.key_of.merge(startup.filter_map { |name| KEYS[name] && [id(name), KEYS[name]] }.to_h)
          seat.save!
          seat.settle
        end

        # One more brush, one fewer, another key.
        def own_changes(seat)
          kept = seat.lines.reject { |line| line.thing == thing("Rain hatch") }
          seat.lines = kept + [Line.new(thing: thing("Gull feather"), part: "startup")]
          seat.key_of = seat.key_of.merge(id("Gull feather") => "7")
          seat.save!
          seat.settle
        end

        def hand_out(person)
          @library.seats.where(away: false).order(:name).each do |seat|
            Actions::HandOut.call(seat:, person:, why: "First storm shots")
            Models::SeatFolder.new(seat).pull(repair: true)
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
