# frozen_string_literal: true

module Fobrel
  module Api
    # Workplaces and the templates of their plans: what they load at start, what lies in their folders, and what an
    # agent asks for.
    module Seats
      extend Sinatra::Extension

      # So many names of stock brushes are told.
      STOCK = 2000

      get "/api/libraries/:library/seats" do
        seats = Models::Seat.where(library:).includes(:items, :person, :parent).order(template: :desc, name: :asc).to_a
        Models::Seat.with_handed(seats)
        answer({seats: seats.map { |seat| Views::Seats.line(seat) }})
      end

      post "/api/libraries/:library/seats" do
        name = Core::Names.clean(json["name"])
        parent = json["parent_id"] && library.templates.find(json["parent_id"])
        said = {
          name:,
          folder: Models::Seat.free_folder(library, name),
          parent:,
          template: json.fetch("template", false)
        }
        seat = Models::Record.transaction do
          Actions::MakeThing.call(things: library.seats, person:, said:).tap(&:settle)
        end
        answer(Views::Seats.line(seat), 201)
      rescue ActiveRecord::RecordNotUnique
        refuse(422, "There is a desk of that name already. Nothing was changed. Take another name.")
      end

      get "/api/libraries/:library/seat-table" do
        answer(Views::Seats.table(library))
      end

      get "/api/libraries/:library/stock-names" do
        library
        stock = person.libraries.in_use.where(kind: "stock")
        answer({names: Models::Preset.shown.where(library: stock).distinct.order(:name).limit(STOCK).pluck(:name)})
      end

      put "/api/libraries/:library/reserved-keys" do
        Actions::SetUpLibrary.call(library:, person:, setting: :reserved_keys, value: json["keys"])
        answer({keys: library.reserved_keys})
      end

      post "/api/libraries/:library/hand-outs" do
        found = library.seats.in_use.where(id: json["seat_ids"]).order(:id).to_a
        raise ActiveRecord::RecordNotFound if found.size < json["seat_ids"].uniq.size
        back_to
        told = found.map { |seat| {id: seat.id, seat: seat.name, **(params["look"] ? earlier(seat) : handed_to(seat))} }
        answer({told:})
      end

      get "/api/seats/:id" do
        seat = seat_here
        look(seat)
        answer(Views::Seats.detail(seat.reload))
      end

      put "/api/seats/:id" do
        seat = seat_here
        Actions::ChangeSeat.call(seat:, person:, wish: json)
        answer(Views::Seats.detail(seat.reload))
      end

      delete "/api/seats/:id" do
        answer_entry(Actions::RemoveSeat.call(seat: seat_here, person:))
      end

      put "/api/seats/:id/plan" do
        seat = seat_here
        wish = {
          lines: json["lines"],
          before: json["before"],
          keys: json.fetch("keys", {}),
          revert: json.fetch("revert", [])
        }
        if params["plan"]
          answer({effects: Actions::PlanStart.new(seat:, person:, **wish).effects})
        else
          entry = Actions::PlanStart.call(seat:, person:, **wish)
          answer({seat: Views::Seats.detail(seat.reload), entry: Views.entry(entry)})
        end
      end

      post "/api/seats/:id/hand-out" do
        seat = seat_here
        hand_out(seat, why: json.fetch("why", ""))
        answer(Views::Seats.detail(seat.reload))
      end

      post "/api/seats/:id/back" do
        seat = seat_here
        like = json["plan"] ? seat.plans.find_by!(number: json["plan"]) : :before
        hand_out(seat, why: json.fetch("why", ""), like:)
        answer(Views::Seats.detail(seat.reload))
      end

      post "/api/seats/:id/restart" do
        answer(Views::Seats.detail(Actions::RestartSeat.call(seat: seat_here)))
      end

      # Puts right what differs in a folder of this machine: all of it, or what is named.
      post "/api/seats/:id/repair" do
        seat = seat_here
        if seat.away
          refuse(
            422,
            "#{seat.name} runs on another computer: send the plan again, and the agent there repairs the folder."
          )
        end
        Models::SeatFolder.new(seat).pull(repair: json["paths"] || true)
        seat.note("repaired", (json["paths"] || ["all that differed"]).join(", ")[0, 300], person)
        answer(Views::Seats.detail(seat.reload))
      end

      post "/api/seats/:id/decisions" do
        seat = seat_here
        wish = {path: json["path"], decision: json["decision"], sentence: json.fetch("sentence", "")}
        offer = Actions::DecideOnFile.call(seat:, person:, **wish)
        look(seat.reload)
        answer({seat: Views::Seats.detail(seat.reload), offer: offer&.id})
      end

      # What was altered there, or is somebody's own, along the trial stroke.
      get "/api/seats/:id/strip.png" do
        seat = seat_here
        item = (seat.found&.fetch("items", []) || []).find { _1["path"] == params["path"] && _1["document"] }
        raise ActiveRecord::RecordNotFound unless item
        value = Core::Preset::Preset.restore(item["document"])
        assets = Models::Asset.at_hand(value)
        halt_png Core::Apart.call(Core::Stroke::Strip, :png, value, assets:)
      end

      # What the seat painted at its last start.
      get "/api/seats/:id/painted/:sum.png" do |_, sum|
        seat = seat_here
        raise ActiveRecord::RecordNotFound unless seat.report&.fetch("loaded")&.any? { _1["painted"] == sum }
        answer_forever(Models::SeatPlan.bytes(sum) || raise(ActiveRecord::RecordNotFound))
      end

      get "/api/seats/:id/card.pdf" do
        seat = seat_here
        found = Finding::StartPlan.new(seat).brushes.select { |one| one.key && one.line.part == "startup" }
        refuse(422, "#{seat.name} has no shortcuts yet. Give some brushes a shortcut first.") if found.empty?
        pdf = Proofs::KeyCard.new(seat, found).pdf
        name = "#{Core::Package::FileName.plain(seat.name)}, keys.pdf"
        answer_file(pdf, name:, type: "application/pdf")
      end

      # --- what an agent asks for -------------------------------------------------------------------

      # Which seat the token is for.
      get "/api/my-seat" do
        seat = token? ? token_shown&.seat : nil
        answer({id: seat&.id, name: seat&.name})
      end

      get "/api/seats/:id/start" do
        seat = seat_here
        seat.update_columns(seen_at: Time.current) if token?
        plan = seat.plans.select(:id, :seat_id, :number, :created_at).order(number: :desc).first
        refuse(404, "Nothing was sent to #{seat.name} yet.") unless plan
        etag plan.etag
        # As the database writes it: nobody here reads it.
        content_type :json
        more = JSON.generate({kept: seat.left_alone, etag: plan.etag})
        halt 200, %({"plan":#{plan.written},#{more[1..]})
      end

      get "/api/seats/:id/files/:sum" do
        seat = seat_here
        sum = params["sum"]
        known = Models::SeatPlan.where(seat:).joins("JOIN seat_plan_files f ON f.seat_plan_id = seat_plans.id")
          .exists?(["f.sum = ?", sum])
        raise ActiveRecord::RecordNotFound unless known
        send_part(Models::SeatPlan.bytes(sum) || raise(ActiveRecord::RecordNotFound), sum)
      end

      post "/api/seats/:id/report" do
        seat = seat_here
        seat.update_columns(seen_at: Time.current)
        Models::SeatFolder.note(seat, json["found"]) if json["found"]
        Actions::RestartSeat.keep(seat, Actions::RestartSeat.sent(json["start"])) if json["start"]
        answer({state: Models::SeatState.of(seat.reload).word})
      end

      helpers do
        def seat_here = of_library(Models::Seat)

        # The folder is asked what lies there.
        def look(seat)
          Models::SeatFolder.new(seat).look unless seat.template || seat.away || seat.put_aside_at
        rescue SystemCallError
          nil # it cannot be read: what was found last is told
        end

        def hand_out(seat, **how)
          if seat.put_aside_at
            refuse(
              422,
              "#{seat.name} is out of use. Nothing was sent. Bring the desk back into use first."
            )
          end
          plan = Actions::HandOut.call(seat:, person:, **how)
          Models::SeatFolder.new(seat).pull(repair: true) unless seat.away
          plan
        rescue Core::Startup::Agent::Stopped, Core::Startup::Agent::Away => e
          refuse(
            422,
            "Plan #{plan&.number || seat.reload.handed&.number} is saved, but could not be written to the folder: " \
              "#{e.message}"
          )
        end

        def handed_to(seat)
          like = seat.earlier(*back_to) if json["back"]
          plan = hand_out(seat, why: json.fetch("why", ""), like:)
          {plan: plan.number, problem: nil}
        rescue Core::Problem, Application::Halt => e
          {plan: nil, problem: e.message}
        end

        # What a seat would go back to.
        def earlier(seat)
          found = seat.earlier(*back_to)
          return {plan: nil, problem: nil, before: true} if found == :before
          {plan: found.number, problem: nil, before: !!found.document["before"], **Views::Seats.handed_out(found)}
        rescue Core::Problem => e
          {plan: nil, problem: e.message}
        end

        def back_to
          back = json["back"] || {"to" => "previous"}
          at = back["at"] && Time.iso8601(back["at"])
          refuse(422, "Say which moment is meant. Nothing was changed.") if back["to"] == "moment" && at.nil?
          [back["to"], at]
        rescue ArgumentError
          refuse(422, "“#{back["at"].to_s[0, 40]}” is not a moment. Nothing was changed.")
        end

        # A file, or the rest of one (RFC 9110, 14).
        def send_part(bytes, sum)
          headers(
            "Accept-Ranges" => "bytes",
            "ETag" => %("#{sum}"),
            "Cache-Control" => "private, max-age=31536000, immutable"
          )
          content_type "application/octet-stream"
          from = request.env["HTTP_RANGE"].to_s[/\Abytes=(\d{1,12})-\z/, 1]&.to_i
          return halt(200, bytes) unless from
          halt(416, {"Content-Range" => "bytes */#{bytes.bytesize}"}, "") if from >= bytes.bytesize
          headers("Content-Range" => "bytes #{from}-#{bytes.bytesize - 1}/#{bytes.bytesize}")
          halt(206, bytes.byteslice(from..))
        end
      end
    end
  end
end
