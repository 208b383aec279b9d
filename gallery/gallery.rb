# frozen_string_literal: true

require "digest"
require "fileutils"
require "json"
require "securerandom"
require "sinatra/base"

module Fobrel
  # A stand-in for a place outside the studio where packages are shown and handed on. It asks for
  # a token, is slow, and fails now and then, as such places do. It shares nothing with the
  # server but the way both speak: see docs/formats.md.
  class Gallery < Sinatra::Base
    MAX_BYTES = 1024 * 1024 * 1024
    PIECE = 64 * 1024

    configure do
      set :show_exceptions, false
      set :logging, nil
      set :protection, false
      set :host_authorization, {permitted_hosts: []}
      set :folder, ENV.fetch("GALLERY_FOLDER")
      set :token, ENV.fetch("GALLERY_TOKEN")
      # Seconds that each piece takes, and how often of a hundred times something fails.
      set :pause, Float(ENV.fetch("GALLERY_PAUSE", "0.02"))
      set :fails, Integer(ENV.fetch("GALLERY_FAILS", "20"))
      set :chance, Random.new(Integer(ENV.fetch("GALLERY_SEED", "5")))
    end

    before do
      content_type :json
      halt 401, JSON.generate({error: "This token is not known here."}) unless Rack::Utils.secure_compare(
        request.env["HTTP_AUTHORIZATION"].to_s, "Bearer #{settings.token}"
      )
      sleep settings.pause
      if request.get? && request.path_info != "/packages" && fails?
        halt 503,
          JSON.generate({error: "The gallery is busy."})
      end
    end

    get "/packages" do
      word = params["q"].to_s.downcase
      found = Dir.glob("*.json", base: settings.folder).map { |name|
        JSON.parse(File.read(File.join(settings.folder, name)))
      }
      found = found.select { |one|
        [one["title"], one["description"], one["author"], *one["tags"]].join(" ").downcase.include?(word)
      }
      JSON.generate({packages: found.sort_by { _1["at"] }.reverse})
    end

    get %r{/packages/(\h{32})/file} do |id|
      path = File.join(settings.folder, "#{id}.zip")
      halt 404, JSON.generate({error: "There is no such package."}) unless File.file?(path)
      size = File.size(path)
      cut = fails? ? size / 2 : nil
      headers "content-length" => size.to_s, "content-type" => "application/zip"
      body Pieces.new(path, settings.pause, cut)
    end

    post "/packages" do
      id = SecureRandom.hex(16)
      bytes = request.body.read(MAX_BYTES + 1).to_s
      halt 413, JSON.generate({error: "This is too large."}) if bytes.bytesize > MAX_BYTES
      File.binwrite(File.join(settings.folder, "#{id}.zip"), bytes)
      about = {
        id:,
        title: params["title"].to_s[0, 200],
        description: params["description"].to_s[0, 5000],
        author: params["author"].to_s[0, 200],
        tags: params["tags"].to_s.split(",").map(&:strip).reject(&:empty?).first(20),
        size: bytes.bytesize,
        sha256: Digest::SHA256.hexdigest(bytes),
        at: Time.now.utc.strftime("%FT%TZ")
      }
      File.write(File.join(settings.folder, "#{id}.json"), JSON.generate(about))
      [201, JSON.generate(about)]
    end

    helpers do
      def fails? = settings.chance.rand(100) < settings.fails
    end

    # A file, piece by piece with pauses, perhaps cut off.
    Pieces = Struct.new(:path, :pause, :cut) do
      def each
        sent = 0
        File.open(path, "rb") do |file|
          while (bytes = file.read(PIECE))
            raise IOError, "cut off, as asked" if cut && (sent += bytes.bytesize) > cut
            yield bytes
            sleep pause
          end
        end
      end
    end
  end
end

if $PROGRAM_NAME == __FILE__
  require "puma"
  require "puma/server"
  FileUtils.mkdir_p(ENV.fetch("GALLERY_FOLDER"))
  server = Puma::Server.new(Fobrel::Gallery, nil, min_threads: 0, max_threads: 4, log_writer: Puma::LogWriter.null)
  server.add_tcp_listener("127.0.0.1", Integer(ENV.fetch("GALLERY_PORT")))
  trap("TERM") { Thread.new { server.stop } }
  trap("INT", "IGNORE") # the launcher stops it
  thread = server.run
  # When the one who started it is gone, so is the gallery.
  Thread.new do
    sleep 1 while Process.kill(0, Integer(ENV.fetch("GALLERY_PARENT")))
  rescue Errno::ESRCH
    server.stop
  end
  thread.join
end
