# frozen_string_literal: true

require "json"
require "net/http"

module Fobrel
  # A server as a desk's agent sees it: the plan where it is a newer one, files by their content, and where reports go.
  class DeskSource
    Away = Core::Startup::Agent::Away
    Stopped = Core::Startup::Agent::Stopped
    # Nothing that is no plan is read further.
    LARGEST = Core::Startup::Plan::LARGEST
    WAIT = 30

    # Raised where the server has no room at this moment, and nothing was begun.
    class Busy < StandardError; end
    # So often it is asked again.
    TRIES = 8

    # Bytes that came, for those who want to know what a pull costs.
    attr_reader :received

    # @param url [String]
    # @param token [String] a desk's own, or a person's
    # @param desk [Integer, nil] its number; a desk's own token knows it
    # @raise [Core::Problem]
    def initialize(url:, token:, desk: nil)
      @url = URI(url.to_s)
      raise Core::Problem, "#{url.inspect} is not a server address." unless @url.is_a?(URI::HTTP) && @url.host
      @token = token.to_s.strip
      if @token.empty?
        raise Core::Problem,
          "There is no token. Make one for this desk in Fobrel, and give it with --token."
      end
      @desk = desk
      @received = 0
    end

    # @see Core::Startup::Agent#initialize
    def plan(etag)
      answer = ask(
        Net::HTTP::Get.new("/api/desks/#{desk}/start").tap { |one|
          one["If-None-Match"] = %("#{etag}") if etag
        }
      )
      return if answer.is_a?(Net::HTTPNotModified)
      said = JSON.parse(answer.body)
      {etag: said["etag"].to_s, plan: said["plan"], kept: said["kept"]}
    rescue JSON::ParserError
      raise Stopped, "The server's answer is not a start-up plan. Nothing was changed."
    end

    # @see Core::Startup::Agent#initialize
    def fetch(sum, from)
      request = Net::HTTP::Get.new("/api/desks/#{desk}/files/#{sum}")
      request["Range"] = "bytes=#{from}-" if from.positive?
      request["Accept-Encoding"] = "identity"
      patiently do |http|
        http.request(authorised(request)) do |answer|
          check(answer)
          skip = (from.positive? && answer.code == "200") ? from : 0
          answer.read_body do |piece|
            @received += piece.bytesize
            piece, skip = piece.byteslice([skip, piece.bytesize].min..), [skip - piece.bytesize, 0].max
            yield piece unless piece.empty?
          end
        end
      end
    end

    # @param report [Hash] "found" or "start", as openapi.yaml has it
    # @return [String] what the server takes the desk for now
    def report(report)
      request = Net::HTTP::Post.new("/api/desks/#{desk}/report", "Content-Type" => "application/json")
      request.body = JSON.generate(report)
      JSON.parse(ask(request).body)["state"]
    end

    private

    def desk
      @desk ||= JSON.parse(ask(Net::HTTP::Get.new("/api/my-desk")).body)["id"] ||
        raise(Core::Problem, "This token belongs to a person. Name the desk with --desk.")
    end

    def ask(request)
      patiently do |http|
        body = +""
        answer = http.request(authorised(request)) { |one|
          one.read_body do |piece|
            @received += piece.bytesize
            if body.bytesize > LARGEST
              raise Stopped,
                "The server sends more than a start-up plan can be. Nothing was changed."
            end
            body << piece
          end
        }
        answer.body = body
        check(answer)
        answer
      end
    end

    # A little apart from others who wait, too.
    def patiently(&)
      tries = 0
      begin
        connect(&)
      rescue Busy
        raise Away, "The server at #{@url} is busy. What is here stays." if (tries += 1) > TRIES
        sleep(rand(0.4..1.2) * tries)
        retry
      end
    end

    # One connection for all files of a pull; begun anew where it was closed.
    def connect
      @http = nil unless @http&.started?
      @http ||= Net::HTTP.start(
        @url.host, @url.port, use_ssl: @url.scheme == "https", open_timeout: 5, read_timeout: WAIT, write_timeout: WAIT
      )
      yield @http
    rescue SystemCallError, IOError, Timeout::Error, SocketError, OpenSSL::SSL::SSLError, Net::ProtocolError
      @http = nil
      raise Away, "No server answers at #{@url}. What is here stays."
    end

    def authorised(request)
      request["Authorization"] = "Bearer #{@token}"
      request
    end

    def check(answer)
      return if answer.is_a?(Net::HTTPSuccess) || answer.is_a?(Net::HTTPNotModified)
      if answer.code.to_i >= 500
        raise Busy if answer.code == "503" && answer["Retry-After"]
        raise Away,
          "The server at #{@url} is busy or unwell (#{answer.code}). What is here stays."
      end
      said = begin
        JSON.parse(answer.body.to_s)["error"]
      rescue JSON::ParserError
        nil
      end
      raise Stopped, said || "The server refused this (#{answer.code}). Nothing was changed."
    end
  end
end
