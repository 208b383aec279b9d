# frozen_string_literal: true

module Fobrel
  module Api
    # Workplaces and the templates of their plans: what they load at start, what lies in their folders, and what an
    # agent asks for.
    module Desks
      extend Sinatra::Extension

      # So many names of stock brushes are told.
      STOCK = 2000

      get "/api/libraries/:library/desks" do
        desks = Models::Desk.where(library:).includes(:items, :person, :parent).order(template: :desc, name: :asc).to_a
        Models::Desk.with_sent(desks)
        answer({desks: desks.map { |desk| Views::Desks.line(desk) }})
      end

      post "/api/libraries/:library/desks" do
        name = Core::Names.clean(json["name"])
        parent = json["parent_id"] && library.templates.find(json["parent_id"])
        said = {
          name:,
          folder: Models::Desk.free_folder(library, name),
          parent:,
          template: json.fetch("template", false)
        }
        desk = Models::Record.transaction do
          Actions::MakeThing.call(things: library.desks, person:, said:).tap(&:settle)
        end
        answer(Views::Desks.line(desk), 201)
      rescue ActiveRecord::RecordNotUnique
        refuse(422, "There is a desk of that name already. Nothing was changed. Take another name.")
      end

      get "/api/libraries/:library/desk-table" do
        answer(Views::Desks.table(library))
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

      post "/api/libraries/:library/sends" do
        found = library.desks.in_use.where(id: json["desk_ids"]).order(:id).to_a
        raise ActiveRecord::RecordNotFound if found.size < json["desk_ids"].uniq.size
        back_to
        told = found.map { |desk| {id: desk.id, desk: desk.name, **(params["look"] ? earlier(desk) : send_one(desk))} }
        answer({told:})
      end

      get "/api/desks/:id" do
        desk = desk_here
        look(desk)
        answer(Views::Desks.detail(desk.reload))
      end

      put "/api/desks/:id" do
        desk = desk_here
        Actions::ChangeDesk.call(desk:, person:, wish: json)
        answer(Views::Desks.detail(desk.reload))
      end

      delete "/api/desks/:id" do
        answer_entry(Actions::RemoveDesk.call(desk: desk_here, person:))
      end

      put "/api/desks/:id/plan" do
        desk = desk_here
        wish = {
          lines: json["lines"],
          before: json["before"],
          keys: json.fetch("keys", {}),
          revert: json.fetch("revert", [])
        }
        if params["plan"]
          answer({effects: Actions::PlanStartup.new(desk:, person:, **wish).effects})
        else
          entry = Actions::PlanStartup.call(desk:, person:, **wish)
          answer({desk: Views::Desks.detail(desk.reload), entry: Views.entry(entry)})
        end
      end

      post "/api/desks/:id/send" do
        desk = desk_here
        send_to_desk(desk, why: json.fetch("why", ""))
        answer(Views::Desks.detail(desk.reload))
      end

      post "/api/desks/:id/back" do
        desk = desk_here
        like = json["plan"] ? desk.plans.find_by!(number: json["plan"]) : :before
        send_to_desk(desk, why: json.fetch("why", ""), like:)
        answer(Views::Desks.detail(desk.reload))
      end

      post "/api/desks/:id/restart" do
        answer(Views::Desks.detail(Actions::RestartDesk.call(desk: desk_here)))
      end

      # Puts right what differs in a folder of this machine: all of it, or what is named.
      post "/api/desks/:id/repair" do
        desk = desk_here
        if desk.away
          refuse(
            422,
            "#{desk.name} runs on another computer: send the plan again, and the agent there repairs the folder."
          )
        end
        Models::DeskFolder.new(desk).pull(repair: json["paths"] || true)
        desk.note("repaired", (json["paths"] || ["all that differed"]).join(", ")[0, 300], person)
        answer(Views::Desks.detail(desk.reload))
      end

      post "/api/desks/:id/decisions" do
        desk = desk_here
        wish = {path: json["path"], decision: json["decision"], sentence: json.fetch("sentence", "")}
        proposal = Actions::DecideOnFile.call(desk:, person:, **wish)
        look(desk.reload)
        answer({desk: Views::Desks.detail(desk.reload), proposal: proposal&.id})
      end

      # What was altered there, or is somebody's own, along the sample stroke.
      get "/api/desks/:id/strip.png" do
        desk = desk_here
        item = (desk.found&.fetch("items", []) || []).find { _1["path"] == params["path"] && _1["document"] }
        raise ActiveRecord::RecordNotFound unless item
        value = Core::Preset::Preset.restore(item["document"])
        assets = Models::Asset.at_hand(value)
        halt_png Core::Apart.call(Core::Stroke::Strip, :png, value, assets:)
      end

      # What the desk painted at its last start.
      get "/api/desks/:id/painted/:sum.png" do |_, sum|
        desk = desk_here
        raise ActiveRecord::RecordNotFound unless desk.report&.fetch("loaded")&.any? { _1["painted"] == sum }
        answer_forever(Models::DeskPlan.bytes(sum) || raise(ActiveRecord::RecordNotFound))
      end

      get "/api/desks/:id/card.pdf" do
        desk = desk_here
        found = Finding::StartupPlan.new(desk).brushes.select { |one| one.key && one.line.part == "startup" }
        refuse(422, "#{desk.name} has no shortcuts yet. Give some brushes a shortcut first.") if found.empty?
        pdf = Proofs::KeyCard.new(desk, found).pdf
        name = "#{Core::Package::FileName.plain(desk.name)}, keys.pdf"
        answer_file(pdf, name:, type: "application/pdf")
      end

      # --- what an agent asks for -------------------------------------------------------------------

      # Which desk the token is for.
      get "/api/my-desk" do
        desk = token? ? token_shown&.desk : nil
        answer({id: desk&.id, name: desk&.name})
      end

      get "/api/desks/:id/start" do
        desk = desk_here
        desk.update_columns(seen_at: Time.current) if token?
        plan = desk.plans.select(:id, :desk_id, :number, :created_at).order(number: :desc).first
        refuse(404, "Nothing was sent to #{desk.name} yet.") unless plan
        etag plan.etag
        # As the database writes it: nobody here reads it.
        content_type :json
        more = JSON.generate({kept: desk.left_alone, etag: plan.etag})
        halt 200, %({"plan":#{plan.written},#{more[1..]})
      end

      get "/api/desks/:id/files/:sum" do
        desk = desk_here
        sum = params["sum"]
        known = Models::DeskPlan.where(desk:).joins("JOIN desk_plan_files f ON f.desk_plan_id = desk_plans.id")
          .exists?(["f.sum = ?", sum])
        raise ActiveRecord::RecordNotFound unless known
        send_part(Models::DeskPlan.bytes(sum) || raise(ActiveRecord::RecordNotFound), sum)
      end

      post "/api/desks/:id/report" do
        desk = desk_here
        desk.update_columns(seen_at: Time.current)
        Models::DeskFolder.note(desk, json["found"]) if json["found"]
        Actions::RestartDesk.keep(desk, Actions::RestartDesk.sent(json["start"])) if json["start"]
        answer({state: Models::DeskState.of(desk.reload).word})
      end

      helpers do
        def desk_here = of_library(Models::Desk)

        # The folder is asked what lies there.
        def look(desk)
          Models::DeskFolder.new(desk).look unless desk.template || desk.away || desk.put_aside_at
        rescue SystemCallError
          nil # it cannot be read: what was found last is told
        end

        def send_to_desk(desk, **how)
          if desk.put_aside_at
            refuse(
              422,
              "#{desk.name} is out of use. Nothing was sent. Bring the desk back into use first."
            )
          end
          plan = Actions::SendToDesk.call(desk:, person:, **how)
          Models::DeskFolder.new(desk).pull(repair: true) unless desk.away
          plan
        rescue Core::Startup::Agent::Stopped, Core::Startup::Agent::Away => e
          refuse(
            422,
            "Plan #{plan&.number || desk.reload.handed&.number} is saved, but could not be written to the folder: " \
              "#{e.message}"
          )
        end

        def send_one(desk)
          like = desk.earlier(*back_to) if json["back"]
          plan = send_to_desk(desk, why: json.fetch("why", ""), like:)
          {plan: plan.number, problem: nil}
        rescue Core::Problem, Application::Halt => e
          {plan: nil, problem: e.message}
        end

        # What a desk would go back to.
        def earlier(desk)
          found = desk.earlier(*back_to)
          return {plan: nil, problem: nil, before: true} if found == :before
          {plan: found.number, problem: nil, before: !!found.document["before"], **Views::Desks.sent(found)}
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
