# frozen_string_literal: true

require_relative "desk_source"

module Fobrel
  # `fobrel desk`: the agent on an artist's computer, and the painting program's stand-in.
  module DeskCommands
    # Seconds between two looks, and the longest pause while no server answers.
    EVERY = 30
    LONGEST = 600
    TOLD = 3600

    private

    Agent = Core::Startup::Agent
    Folder = Core::Startup::Folder
    Drift = Core::Startup::Drift

    # Brings the folder to its plan; with --watch again and again.
    def desk_pull
      path = desk_folder do |o|
        at_server(o)
        o.on("--watch") { @options[:watch] = true }
        o.on("--every SECONDS", Float) { @options[:every] = _1 }
        o.on("--repair") { @options[:repair] = true }
      end
      return watch(path) if @options[:watch]
      said(pull(path, source))
    end

    def pull(path, source)
      done = Agent.new(path, source).pull(repair: @options.fetch(:repair, false))
      tell(path, source) unless done.away
      done
    end

    # What lies there goes to the server where it is another than last time; now and then it goes anyway, for a server
    # may have lost what it knew.
    def tell(path, source)
      folder = Folder.new(path)
      found = Drift.found(folder)
      sum = Core::Sum.of(JSON.generate(found))
      note = folder.own("reported")
      known = folder.tree.stat(note)
      return if known && known.mtime > Time.now - TOLD && folder.tree.read(note, most: 100) == sum
      source.report("found" => found)
      folder.tree.write(note, sum, mode: Core::Startup::Tree::PRIVATE)
    end

    # The folder that the artist names may be a link of theirs; within it none is followed.
    def desk_folder
      path = argument("desk's folder") { |o| yield o if block_given? }
      File.realpath(path)
    rescue Errno::ENOENT
      path
    end

    # For ever: a little apart from others, and ever more seldom while no server answers.
    def watch(path)
      source, every = self.source, @options.fetch(:every, EVERY)
      pause = every
      loop do
        done = pull(path, source)
        @out.puts(words(done)) if done.swapped || done.away
        @out.flush
        pause = done.away ? [pause * 2, LONGEST].min : every
      rescue Core::Problem => e
        @out.puts(e.message)
        @out.flush
        pause = [pause * 2, LONGEST].min
      ensure
        sleep(pause * rand(0.8..1.2))
      end
    end

    def said(done)
      drift = done.drift&.open || []
      data = {
        plan: done.number,
        swapped: done.swapped,
        fetched: done.fetched,
        bytes: done.bytes,
        received: source.received,
        carried: done.carried,
        drift: drift.map { _1.except("document") },
        away: done.away
      }
      answer(data, [words(done), *drift.map { line(_1) }])
      done.away ? 1 : 0
    end

    def words(done)
      here = done.number ? "Plan #{done.number} is in place." : "Nothing was sent here yet."
      return "#{done.away} #{here}" if done.away
      return "Plan #{done.number} is in place. Nothing newer." unless done.swapped
      aside = done.carried.any? ? " Set aside or moved: #{done.carried.map { |from, to|
        "#{from} → #{to}"
      }.join(", ")}." : ""
      "Plan #{done.number} is in place: #{done.fetched} files fetched, #{done.bytes} bytes.#{aside}"
    end

    def line(item)
      "#{Drift::KINDS[item["kind"]].ljust(20)} #{item["path"]}#{"  (#{item["name"]})" if item["name"]}" \
        "#{": now #{item["now"]}" if item["now"]}"
    end

    # What is here, in one sentence; exit 1 where something is not as it was sent.
    def desk_status
      folder, drift = looked_at(desk_folder)
      plan = folder.plan
      counts = drift.open.map { _1["kind"] }.tally
      data = {
        plan: plan["plan"],
        desk: plan.dig("desk", "name"),
        made_at: plan["made_at"],
        by: plan["by"],
        drift: counts
      }
      found = counts.map { |kind, count| "#{count} #{kind}" }.join(", ")
      sentence = [
        ("Everything is as it was sent" unless drift.any?),
        *found
      ].compact.reject(&:empty?).join("; also ")
      answer(data, "#{data[:desk]}, plan #{data[:plan]} of #{data[:by]}, #{data[:made_at]}. #{sentence}.")
      drift.any? ? 1 : 0
    end

    # What differs, one by one; exit 1 where something does.
    def desk_diff
      _, drift = looked_at(desk_folder)
      lines = drift.open.map { |item| line(item) }
      answer({items: drift.items.map { _1.except("document") }}, lines.empty? ? "Nothing differs." : lines)
      drift.any? ? 1 : 0
    end

    def looked_at(path)
      folder = Folder.new(path)
      drift = Drift.of(folder) or raise Core::Problem, "Nothing was sent to #{path} yet. Pull first."
      [folder, drift]
    end

    # An earlier plan that is kept here, or what was here before Fobrel; no server is asked.
    def desk_back
      path = desk_folder do |o|
        o.on("--to NUMBER", Integer) { @options[:to] = _1 }
        o.on("--before") { @options[:before] = true }
      end
      agent = Agent.new(path, nil)
      unless @options[:to] || @options[:before]
        list = agent.kept_plans
        return answer(
          {plans: list},
          list.map { |one|
            "#{one["plan"]}  #{one["made_at"]}  #{one["by"]}  #{one["why"]}"
          }
        )
      end
      done = agent.back(@options[:before] ? nil : @options[:to])
      what = @options[:before] ? "As it was before Fobrel" : "Plan #{done.number} is in place"
      answer({plan: done.number, carried: done.carried}, "#{what}. It stays until a newer plan is sent.")
    end

    # Starts the stand-in of a painting program; exit 1 where a brush failed.
    def desk_start
      path = desk_folder do |o|
        at_server(o)
        o.on("--report") { @options[:report] = true }
      end
      report = Core::Startup::Start.run(path, strips: @options.fetch(:report, false))
      source.report("start" => sendable(report)) if @options[:report]
      rows = report[:loaded].map { |one| loaded(one) }
      well = report[:loaded].size - report[:failed]
      total = "#{well} loaded, #{report[:failed]} failed, in #{report[:ms]} ms, #{report[:memory]} bytes"
      answer(report.merge(loaded: report[:loaded].map { _1.except(:strip) }), [*rows, total])
      report[:failed].zero? ? 0 : 1
    end

    def loaded(one)
      how = one[:ok] ? "loaded" : "FAILED"
      other = "  not as planned" if one[:ok] && one[:as_planned] == false
      "#{how}  #{one[:key].to_s.ljust(2)} #{one[:name]}  #{one[:ms]} ms#{other}#{"  #{one[:problem]}" unless one[:ok]}"
    end

    def sendable(report)
      report.merge(loaded: report[:loaded].map { |one| one[:strip] ? one.merge(strip: [one[:strip]].pack("m0")) : one })
    end

    def at_server(parser)
      parser.on("--server URL") { @options[:server] = _1 }
      parser.on("--token TOKEN") { @options[:token] = _1 }
      parser.on("--desk NUMBER", Integer) { @options[:desk] = _1 }
    end

    def source
      @source ||= DeskSource.new(
        url: @options[:server] || ENV.fetch("FOBREL_URL", "http://127.0.0.1:4810"),
        token: @options[:token] || ENV["FOBREL_TOKEN"],
        desk: @options[:desk]
      )
    end
  end
end
