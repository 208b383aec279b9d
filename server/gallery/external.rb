# frozen_string_literal: true

require "net/http"

module Fobrel
  module Gallery
    # The gallery outside the studio, as one person sees it. GALLERY_URL says where it is; it is
    # slow and fails at times, so what fails in passing is tried again.
    class External
      # Raised with a sentence when it refuses, or does not answer however often it is asked.
      class Failed < Core::Problem; end

      # Raised with a sentence when no answer came.
      class Silent < Failed; end

      # Raised for what may go well the next time.
      class Passing < StandardError; end

      TRIES = 5
      # Seconds and bytes for a list.
      LOOK_SECONDS = 8
      LOOK_BYTES = 4 * 1024 * 1024
      # Bytes of a package: what an import may be.
      MOST = Actions::Deliver::MAX_BYTES
      ID = /\A[\w.~-]{1,64}\z/
      ODD = "The gallery said something that is not a list of packages. Nothing was changed. Tell whoever runs it."
      SILENT = "The gallery did not answer, though it was asked %s. Nothing was changed here. Try again later."
      WAIT = Float(ENV.fetch("GALLERY_WAIT", "1"))
      ERRORS = [Passing, SystemCallError, IOError, Timeout::Error, Net::ProtocolError, Net::HTTPBadResponse].freeze

      def self.url = URI(ENV.fetch("GALLERY_URL", "http://127.0.0.1:4811"))

      # @param token [String]
      def initialize(token)
        @token = token
      end

      # @param word [String] what to look for; empty finds all
      # @param within [Numeric, nil] seconds, where somebody waits for the answer
      # @return [Array<Hash>] id, title, description, author, tags, size, sha256, at
      # @raise [Failed] also where what it says is no list, or too long a one
      def list(word = "", within: nil)
        said = trying(within) { text(Net::HTTP::Get.new("/packages?#{URI.encode_www_form(q: word)}"), LOOK_SECONDS) }
        found = JSON.parse(said, max_nesting: 10)
        found = found["packages"] if found.is_a?(Hash)
        raise Failed, ODD unless found.is_a?(Array)
        found.grep(Hash).first(500).filter_map { |package| told(package) }
      rescue JSON::ParserError
        raise Failed, ODD
      end

      # @param id [String]
      # @param into [IO] binary
      # @yieldparam done [Integer] bytes
      # @yieldparam total [Integer]
      # @yieldparam try [Integer] which try it is
      # @return [Hash] what the gallery says of it
      def download(id, into:, &tell)
        about = list.find { _1["id"] == id } or
          raise Failed, "This package is no longer in the gallery. Nothing was taken. Look again."
        raise Failed, "This package is larger than may come. Nothing was taken." if about["size"] > MOST
        trying do |try|
          into.rewind
          into.truncate(0)
          ask(Net::HTTP::Get.new("/packages/#{id}/file")) { |answer| receive(answer, about, into, try, &tell) }
          into.rewind
          raise Passing, "another sum" unless OpenSSL::Digest.new("SHA256").tap { |sum|
            (sum << into.read(1 << 20)) until into.eof?
          }.hexdigest == about["sha256"]
        end
        into.rewind
        about
      end

      # Publishes a package once, even when the answer to it was lost.
      #
      # @param io [IO] binary, at its beginning
      # @param about [Hash] title, description, author, tags
      # @param sha256 [String] of its bytes
      # @return [Hash] what the gallery made of it
      def offer(io, about, sha256:, &tell)
        trying do |try|
          there = list(about["title"]).find { _1.values_at("title", "sha256") == [about["title"], sha256] }
          next there if there
          io.rewind
          request = Net::HTTP::Post.new(
            "/packages?#{URI.encode_www_form(about)}",
            "Content-Type" => "application/zip",
            "Content-Length" => io.size.to_s
          )
          request.body_stream = Counted.new(io) { |done| tell&.call(done, io.size, try) }
          JSON.parse(text(request, 60))
        end
      rescue JSON::ParserError
        raise Failed, ODD
      end

      private

      # What it says of a package, as texts and numbers of a length; nothing of one whose id could be more than a name.
      def told(package)
        text = ->(key, most) { Core::Names.clean(package[key].is_a?(String) ? package[key].delete("\0") : "")[0, most] }
        return unless package["id"].is_a?(String) && package["id"].match?(ID)
        {
          "id" => package["id"],
          "title" => text["title", 200],
          "description" => text["description", 5000],
          "author" => text["author", 200],
          "tags" => Array(package["tags"]).grep(String).first(20).map { |tag|
            Core::Names.clean(tag.delete("\0"))[0, 60]
          },
          "size" => package["size"].is_a?(Integer) ? package["size"].clamp(0, 2**53) : 0,
          "sha256" => text["sha256", 64],
          "at" => text["at", 40]
        }
      end

      # What is read of a file, counted.
      Counted = Struct.new(:io, :tell) do
        def initialize(io, &tell) = super(io, tell)

        def read(*how) = io.read(*how).tap { tell.call(io.pos) }
      end
      private_constant :Counted

      def now = Process.clock_gettime(Process::CLOCK_MONOTONIC)

      # @param seconds [Numeric] from the first piece of the answer to the last
      # @return [String] a short answer, whole
      def text(request, seconds)
        said = +""
        ask(request, wait: [seconds, 30].min) do |answer|
          till = now + seconds
          answer.read_body do |piece|
            said << piece
            raise Failed, ODD if said.bytesize > LOOK_BYTES
            raise Passing, "too slow" if now > till
          end
        end
        said.force_encoding(Encoding::UTF_8).scrub
      end

      def trying(within = nil)
        try = 1
        till = within && now + within
        begin
          yield try
        rescue *ERRORS
          if try == TRIES || (till && now + WAIT * try > till)
            raise Silent,
              format(
                SILENT,
                (try == 1) ? "and waited for" : "#{try} times"
              )
          end
          sleep WAIT * try
          try += 1
          retry
        end
      end

      # Nothing comes packed: what is unpacked could be larger than anybody said.
      def ask(request, wait: 30)
        request["Authorization"] = "Bearer #{@token}"
        request["Accept-Encoding"] = "identity"
        url = self.class.url
        Net::HTTP.start(url.host, url.port, open_timeout: 5, read_timeout: wait) do |http|
          http.max_retries = 0
          http.request(request) do |answer|
            check(answer)
            yield answer if block_given?
          end
        end
      end

      def check(answer)
        case answer.code.to_i
        when 200..299 then nil
        when 401 then raise Failed, "The gallery does not know this token. Nothing was changed. Sign in with another."
        when 500..599 then raise Passing, answer.code
        else raise Failed, "The gallery refused this (#{answer.code}). Nothing was changed."
        end
      end

      def receive(answer, about, into, try)
        total = about["size"].to_i
        done = 0
        answer.read_body do |piece|
          done += piece.bytesize
          raise Failed, "The gallery sends more than it said. Nothing was taken." if done > total
          into.write(piece)
          yield done, total, try if block_given?
        end
        raise Passing, "cut off" if done < total
      end
    end
  end
end
