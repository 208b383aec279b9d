# frozen_string_literal: true

require_relative "studio"
require_relative "routes"
require "committee"
require "open3"
require "rack/test"

# Talks to the application as the page does, and checks every JSON answer against the contract.
module ApiHelp
  include Rack::Test::Methods
  include Committee::Test::Methods

  CONTRACT = Committee::Drivers.load_from_file(
    File.expand_path("../../server/openapi.yaml", __dir__),
    parser_options: {strict_reference_validation: true}
  )
  APP = Fobrel::App.build(secret: "s" * 64)

  def app = APP

  def sign_in(login, password = Studio::PASSWORD)
    clear_cookies
    @token = nil
    call(:post, "/api/session", {login:, password:}).tap { fresh_token }
  end

  def fresh_token = @token = call(:get, "/api/session")["csrf"]

  # Sends JSON (or a file's bytes) and gives the answer's JSON, or its body where it is none.
  def call(verb, path, data = nil)
    fresh_token if verb != :get && @token.nil?
    header "Host", "localhost"
    header "X-CSRF-Token", @token
    header "Content-Type", data.is_a?(String) ? "application/octet-stream" : "application/json"
    public_send(verb, path, data.is_a?(Hash) ? JSON.generate(data) : data)
    return last_response.body unless last_response.media_type == "application/json"
    assert_response_schema_confirm(status) if last_response.successful?
    JSON.parse(last_response.body)
  end

  # Brings files into a library, by name; gives the import with its plan.
  def deliver(library, files, name: files.keys.first)
    import = call(:post, "/api/libraries/#{library.id}/imports", {name:})
    files.each { |file, bytes|
      call(:put, "/api/imports/#{import["id"]}/files?name=#{Rack::Utils.escape(file)}", bytes.b)
    }
    call(:post, "/api/imports/#{import["id"]}/read", {})
    call(:get, "/api/imports/#{import["id"]}")
  end

  # Tunes a brush and saves what was tuned, as the Bench does.
  #
  # @param as [String] versions or variations
  def save_tuned(path, document, as: "versions", **rest)
    kept = call(:put, "#{path}/draft", {document:})
    kept["kept"] ? call(:post, "#{path}/#{as}", {kept: kept["kept"], **rest}) : kept
  end

  def apply(plan) = call(:post, "/api/imports/#{plan["id"]}/apply", {stamp: plan["stamp"]})

  # The same, taken in as the plan proposes, or as was decided.
  def import_brushes(library, bytes, file: "kit.zip", choices: nil)
    plan = deliver(library, {file => bytes})
    plan = call(:put, "/api/imports/#{plan["id"]}", choices) if choices
    apply(plan)
    call(:get, "/api/imports/#{plan["id"]}")
  end

  # What the server exports, whether it is written at once or as long work: that hangs on what was painted before.
  def exported(library, wish)
    answer = call(:post, "/api/libraries/#{library.id}/exports", wish)
    return answer unless status == 202
    export = call(:get, "/api/tasks/#{answer["begun"]["id"]}")["result"]["export"]
    get("/api/exports/#{export}/file")
    last_response.body
  end

  # A package of brushes, as the server exports it.
  def package(library, presets, name: "Storm kit", **options)
    exported(library, {kind: "package", name:, of: {preset_ids: presets.map(&:id)}, options:})
  end

  # Outside references: ajv, the npm packages semver and spdx-license-ids.
  def outside(data)
    output, ended = Open3.capture2("node", File.expand_path("outside.mjs", __dir__), stdin_data: JSON.generate(data))
    expect(ended).to be_success
    JSON.parse(output)
  end

  def status = last_response.status

  def committee_options = {schema: CONTRACT, old_assert_behavior: false, parse_response_by_content_type: true}

  def request_object = last_request

  def response_data = [last_response.status, last_response.headers, last_response.body]
end

RSpec.configure do |config|
  config.include ApiHelp, :api
  config.around(:each, :api) do |example|
    @first, @second = Studio.stand.map { Studio::M::Library.find(_1.id) }
    Studio::M::Record.transaction do
      example.run
      raise ActiveRecord::Rollback
    end
  end
  # Strips written on a second connection would outlive the example's transaction, and could wait for it for ever.
  config.before(:each, :api) { allow(Studio::M::KeptStrip).to(receive(:by_itself)) { |&write| write.call } }
  config.before(:suite) { Studio.clear }
end
