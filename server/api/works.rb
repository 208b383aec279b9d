# frozen_string_literal: true

module Fobrel
  module Api
    # The tip maker: pieces of work, each one person's own. A picture is sent once; all that is tried with it is
    # asked by the number of its piece of work.
    module Works
      extend Sinatra::Extension

      # What may be chosen of a brush before it is made, see FromTip.build.
      HOW = %w[size spacing colour opacity first last].freeze
      # Of each person, in a library.
      SHOWN = 60

      get "/api/libraries/:library/works" do
        works = own_works(library).open.order(updated_at: :desc).limit(SHOWN)
        answer({works: works.map { |work| Views::Works.line(work) }})
      end

      get "/api/tip-maker" do
        answer(Views::Making.words)
      end

      # Pictures become a new piece of work; `work` has them added to one.
      post "/api/libraries/:library/works" do
        name = picture_name
        file = picture_sent
        read = Core::Tip::ApartWork.read(file, name:)
        bytes = file.is_a?(String) ? file : file.bytes
        pages = read.each_with_index.map { |one, index|
          called = (read.size > 1) ? "#{name}, #{index + 1}" : name
          Actions::BringPages::Page.new(read: one, file: bytes, name: called)
        }
        answer(Views::Works.detail(brought(pages)), 201)
      end

      # A text, a figure, or a part that is here already.
      post "/api/libraries/:library/works/made" do
        answer(
          Views::Works.detail(
            brought(
              made_pages(library),
              replaces: json["page"],
              fresh: json.fetch("fresh", true)
            )
          ),
          201
        )
      end

      get "/api/works/:id" do
        answer(Views::Works.detail(own_work))
      end

      put "/api/works/:id" do
        work = own_work
        work.with_lock do
          refuse_overtaken(work)
          work.update!(name: json["name"]) if json["name"]
          work.step(state_sent(work), fresh: json.fetch("fresh", true)) if json["state"]
        end
        answer(Views::Works.detail(work))
      end

      post "/api/works/:id/step" do
        work = own_work
        work.with_lock { work.go((json["go"] == "back") ? -1 : 1) }
        answer(Views::Works.detail(work))
      end

      delete "/api/works/:id" do
        work = own_work
        work.update!(thrown_at: Time.current)
        answer(Views::Works.line(work))
      end

      # What was thrown away comes back, for a while.
      post "/api/works/:id/back" do
        work = own_work(library_works: :all)
        work.update!(thrown_at: nil)
        answer(Views::Works.detail(work))
      end

      get "/api/works/:id/pages/:page.png" do |_, page|
        answer_forever(own_work(library_works: :all).pages.find(page).screen)
      end

      post "/api/works/:id/look" do
        pages = pages_asked
        looked = Core::Tip::ApartWork.look(json["state"], pages, json["frame"])
        answer({**looked, tip: inline(looked[:tip]), frames: looked[:frames].map { |png| inline(png) }})
      end

      post "/api/works/:id/strip" do
        pages = pages_asked
        how = json.slice("kind", "shape", *HOW).transform_keys(&:to_sym)
        halt_png Core::Tip::ApartWork.strip(json["state"], pages, **how)
      end

      post "/api/works/:id/grain" do
        pages = pages_asked
        halt_png Core::Tip::ApartWork.grain(json["state"], pages, twin: json.fetch("twin", false))
      end

      post "/api/works/:id/variants" do
        own_work
        answer({frames: Core::Tip::Work.variants(json["frame"], json["count"], json["steps"])})
      end

      post "/api/works/:id/save" do
        work = own_work
        about = {"work" => work.id, "state" => state_sent(work), "wish" => json["wish"]}
        message = "Making “#{json["wish"]["name"].to_s[0, 60]}”"
        task = Jobs::SaveWork.begin(library: work.library, person:, about:, message:)
        answer(Views.task(task.reload), 202)
      end

      helpers do
        # @return [Models::Work] the person's own: nobody else's exists for them
        def own_work(library_works: :open)
          works = own_works(nil)
          of_library((library_works == :open) ? works.open : works)
        end

        def own_works(library) = Models::Work.where(person:, **(library ? {library:} : {}))

        def refuse_overtaken(work)
          return if json["step"].nil? || json["step"] == work.place
          refuse(409, "This piece of work was changed in another window. It is shown as it is now; do this once more.")
        end

        # Only pages of this work, and frames of those.
        def state_sent(work)
          state = json["state"]
          known = work.pages.where(id: state["pages"]).ids
          strange = state["pages"] - known
          odd = Array(state["frames"]).any? { |frame| frame["page"] >= state["pages"].size }
          refuse(422, "A page of this is not here any more. Nothing was changed. Reload.") if strange.any? || odd
          state
        end

        # @return [Array<Array>] what the core needs of the pages that are asked about
        def pages_asked
          work = own_work(library_works: :all)
          work.pages_of(state_sent(work)).map(&:to_a)
        end

        def brought(pages, **how)
          work = json_or_query("work")&.then { |id| own_works(library).open.find(id) }
          Actions::BringPages.call(library:, person:, work:, pages:, **how)
        end

        def json_or_query(name) = params[name] || (request.media_type == "application/json" && json[name]) || nil

        def made_pages(library)
          return json["parts"].each_with_index.map { |sum, index| part_page(library, sum, index) } if json["parts"]
          words = json.slice("text", "figure").first(1).to_h
          refuse(422, "Say what to make: a text, a figure or parts.") if words.empty?
          picture, read = Core::Tip::ApartWork.drawn(words)
          name = words["text"] ? words["text"]["text"].to_s : "A #{words["figure"].first["shape"]}"
          [Actions::BringPages::Page.new(read:, file: picture, name: name[0, 60], made: words)]
        end

        def part_page(library, sum, index)
          picture = seen_picture(library, sum)
          read = Core::Tip::ApartWork.read(picture, name: "This part").first
          name = json.fetch("name", "A part")
          Actions::BringPages::Page.new(read:, file: picture, name: index.zero? ? name : "#{name}, #{index + 1}")
        end

        # A large file lies on the disk already, and is read where it is unpacked.
        def picture_sent
          file = request.body
          return read_body(Core::Tip::Picture::MAX_BYTES) unless file.respond_to?(:fileno) && file.fileno
          refuse(413, too_large(Core::Tip::Picture::MAX_BYTES)) if file.size > Core::Tip::Picture::MAX_BYTES
          Core::Apart::Lent.of(file)
        end
      end
    end
  end
end
