# frozen_string_literal: true

require "cgi"
require "json"
require "net/http"

module Fobrel
  # A running server as a program sees it: FOBREL_URL says where it is, FOBREL_TOKEN for whom it
  # acts (made in the page, under one's own name at the top right).
  class Studio
    # Raised with the server's own sentence, or ours when it does not answer.
    class Refused < Core::Problem; end

    def initialize(url: ENV.fetch("FOBREL_URL", "http://127.0.0.1:4810"), token: ENV["FOBREL_TOKEN"])
      @url = URI(url)
      @token = token.to_s.strip
      if @token.empty?
        raise Refused,
          "There is no token. Make one in Fobrel (your name at the top right), then: export FOBREL_TOKEN=…"
      end
      raise Refused, "FOBREL_URL is not a server address." unless @url.is_a?(URI::HTTP)
    end

    # @param name [String, nil] of a library; not needed where there is only one
    # @return [Hash] id, name, role
    def library(name)
      all = get("/api/session")["libraries"]
      # One's own, and what lies in the archive, is meant by its name only.
      usual = all.reject { _1["own"] || _1["archived"] }
      found = name ? all.select { _1["name"].casecmp?(name) } : usual
      return found.first if found.size == 1
      why = name ? "There is no library “#{name}” that you are a member of" : "Say which library with --library"
      raise Refused, "#{why}: #{all.map { _1["name"] }.join(", ")}."
    end

    # @return [String] a lock file
    def lock(library) = ask(Net::HTTP::Get.new("/api/libraries/#{library["id"]}/lock"), plain: true)

    # @param known [String, nil] a head that was noted before
    # @return [Hash] entries, head, broken, known
    def check_history(library, known: nil)
      ask(Net::HTTP::Get.new("/api/libraries/#{library["id"]}/history/check#{"?known=#{known}" if known}"))
    end

    # @param kind [String] "csv" or "jsonl"
    # @return [String] the whole history
    def history(library, kind)
      ask(Net::HTTP::Get.new("/api/libraries/#{library["id"]}/history/file?as=#{kind}"), plain: true)
    end

    # @param text [String] a lock file that the library is compared with, and restored to
    # @param plan [Boolean] only to say what differs
    # @return [Hash] differences, back, entry
    def hold(library, text, plan: false)
      request = Net::HTTP::Post.new("/api/libraries/#{library["id"]}/lock#{"?plan=true" if plan}")
      request["Content-Type"] = "application/octet-stream"
      request.body = text
      ask(request)
    end

    # @param kind [String] of thing: "sets" or "export templates"
    # @return [Hash] the one of that name
    def named(library, kind, name)
      all = get("/api/libraries/#{library["id"]}/#{kind}")[kind]
      all.find {
        _1["name"].casecmp?(name)
      } || raise(
        Refused,
        "There is no #{kind.delete_suffix("s")} “#{name}” in #{library["name"]}: #{all.map {
          _1["name"]
        }.first(12).join(", ")}."
      )
    end

    # An export template that is kept in the library, or an example that ships.
    #
    # @return [Hash] its texts, and an id where it is kept
    def export_template(library, name)
      all = get("/api/libraries/#{library["id"]}/export-templates")
      list = all["export_templates"] + all["examples"]
      list.find {
        _1["name"].casecmp?(name)
      } || raise(
        Refused,
        "There is no export template “#{name}” in #{library["name"]}: #{list.map {
          _1["name"]
        }.first(12).join(", ")}."
      )
    end

    # Brings files into Import and waits for the plan.
    #
    # @param files [Array<String>] paths; of a folder, everything in it
    # @return [Hash] the import with its plan
    def deliver(library, files)
      paths = files.flat_map { |path|
        File.directory?(path) ? Dir.glob("**/*", base: path).sort.map {
          [
            File.join(path, _1),
            "#{File.basename(path)}/#{_1}"
          ]
        }.select { |file, _| File.file?(file) } : [[path, File.basename(path)]]
      }
      paths.each { |path, _| File.open(path).close } # said before anything is sent
      import = post(
        "/api/libraries/#{library["id"]}/imports",
        {name: (files.size == 1) ? File.basename(files.first) : "#{paths.size} files"}
      )
      paths.each { |path, name|
        File.open(path, "rb") { |io|
          send_file("/api/imports/#{import["id"]}/files?name=#{CGI.escape(name)}", io)
        }
      }
      post("/api/imports/#{import["id"]}/read", {})
      wait(import["id"], "planned")
    end

    # @return [Hash] the import with its plan, decided
    def decide(import, choices) = ask(Net::HTTP::Put.new("/api/imports/#{import["id"]}"), choices)

    # Leaves nothing of an import behind.
    def discard_import(import) = ask(Net::HTTP::Delete.new("/api/imports/#{import["id"]}"))

    # @return [Hash] the import with its report
    def apply(import)
      post("/api/imports/#{import["id"]}/apply", {stamp: import["stamp"]})
      wait(import["id"], "applied")
    end

    # @param wish [Hash] as the API takes it
    # @return [String] the file's bytes
    def export(library, wish)
      text = ask(Net::HTTP::Post.new("/api/libraries/#{library["id"]}/exports"), wish, plain: true)
      return text unless @code == 202
      made = ended(JSON.parse(text)["begun"]["id"])
      ask(Net::HTTP::Get.new("/api/exports/#{made["export"]}/file"), plain: true)
    end

    # @return [Array<Hash>] as openapi.yaml describes Part
    def parts(library) = get("/api/libraries/#{library["id"]}/shelf")["parts"]

    # @param from [Hash] a part
    # @param to [Hash] the one that takes its place
    # @return [Hash] with the history's line
    def exchange(library, from, to)
      post("/api/libraries/#{library["id"]}/parts/exchange", {from: from["sum"], to: to["sum"]})
    end

    private

    def get(path) = ask(Net::HTTP::Get.new(path))

    def post(path, data) = ask(Net::HTTP::Post.new(path), data)

    def send_file(path, io)
      request = Net::HTTP::Put.new(path, "Content-Type" => "application/octet-stream", "Content-Length" => io.size.to_s)
      request.body_stream = io
      ask(request)
    end

    def ask(request, data = nil, plain: false)
      request["Authorization"] = "Bearer #{@token}"
      if data
        request["Content-Type"] = "application/json"
        request.body = JSON.generate(data)
      end
      answer = Net::HTTP.start(
        @url.host,
        @url.port,
        use_ssl: @url.scheme == "https",
        open_timeout: 5,
        read_timeout: 600
      ) {
        _1.request(request)
      }
      @code = answer.code.to_i
      return plain ? answer.body : JSON.parse(answer.body) if answer.is_a?(Net::HTTPSuccess)
      raise Refused, said(answer)
    rescue SystemCallError, IOError, Timeout::Error, SocketError
      raise Refused,
        "No server answers at #{@url}. Nothing was changed. Start it, or say where it is: export FOBREL_URL=…"
    end

    def said(answer)
      JSON.parse(answer.body)["error"]
    rescue JSON::ParserError
      "The server refused this (#{answer.code}). Nothing was changed."
    end

    # @return [Hash] what came of long work
    def ended(id)
      loop do
        task = get("/api/tasks/#{id}")
        raise Refused, task["message"] if task["state"] == "failed"
        return task["result"] if task["state"] == "done"
        sleep 0.5
      end
    end

    def wait(id, state)
      loop do
        import = get("/api/imports/#{id}")
        return import if import["state"] == state
        task = import["task"]
        raise Refused, task["message"] if task && task["state"] == "failed"
        sleep 0.3
      end
    end
  end
end
