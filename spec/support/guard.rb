# frozen_string_literal: true

# Hears everything the browsers say (Ferrum's log of the DevTools protocol) and keeps what no page
# should ever say: uncaught errors, errors on the console, requests that failed, answers of 400 and
# above. A spec announces what it provokes; whatever else was heard, and whatever was announced and
# did not happen, fails it.
class Guard
  # Raised at the end of a spec whose page had troubles.
  class Trouble < StandardError; end

  # What a page leaving, or a picture scrolled past, gives up by itself.
  GIVEN_UP = /net::ERR_ABORTED/

  def initialize
    @heard = []
    @announced = []
    @possible = []
    @urls = {}
    @lock = Mutex.new
  end

  HEARD = /"method":"(?:
    Network\.(?:requestWillBeSent|responseReceived|loadingFailed) |
    Runtime\.(?:exceptionThrown|consoleAPICalled) |
    Log\.entryAdded
  )"/x
  private_constant :HEARD

  # Ferrum writes each message as a line; most are of no interest.
  def puts(line)
    return unless line.match?(HEARD) && (json = line[/◀ \d+\.\d+ (\{.*\})/m, 1])
    message = JSON.parse(json)
    told = tell(message["method"], message["params"] || {})
    @lock.synchronize { @heard << told } if told
  rescue JSON::ParserError
    nil # cut off: a large answer of no interest
  end

  # @param patterns [Array<Regexp>] of what this spec provokes; each must be heard
  def announce(*patterns) = @lock.synchronize { @announced.concat(patterns) }

  # @param patterns [Array<Regexp>] of what may be heard or not, as it falls out
  def permit(*patterns) = @lock.synchronize { @possible.concat(patterns) }

  # @return [Array<String>] what was heard and not announced, and what was announced and not heard
  def troubles
    @lock.synchronize do
      unheard = @announced.reject { |pattern| @heard.any? { pattern.match?(_1) } }
      @heard.reject { |told| (@announced + @possible).any? { _1.match?(told) } }.uniq + unheard.map {
        "announced, but not heard: #{_1.inspect}"
      }
    end
  end

  # Answers to what an earlier page asked may still come; with their requests forgotten they are passed over.
  def forget
    @lock.synchronize { [@heard, @announced, @possible, @urls].each(&:clear) }
  end

  private

  def asked(params)
    @urls[params["requestId"]] = "#{params.dig("request", "method")} #{path(params.dig("request", "url"))}"
    nil
  end

  def uncaught(details) = "uncaught: #{details.dig("exception", "description") || details["text"]}"[0, 600]

  def tell(method, params)
    case method
    when "Network.requestWillBeSent" then asked(params)
    when "Network.responseReceived" then answer(params)
    when "Network.loadingFailed" then failure(params)
    when "Runtime.exceptionThrown" then uncaught(params["exceptionDetails"])
    when "Runtime.consoleAPICalled" then console(params)
    when "Log.entryAdded" then entry(params["entry"])
    end
  end

  def answer(params)
    status = params.dig("response", "status")
    asked = @urls[params["requestId"]]
    return if asked.nil? || status < 400 || busy?(status, params.dig("response", "headers"))
    "answer: #{status} #{asked}"
  end

  # A busy machine asks to come back in a moment, and the page does so by itself; what never came would be missed
  # by the spec.
  def busy?(status, headers) = status == 503 && headers.to_h.any? { |name, _| name.casecmp?("retry-after") }

  def failure(params)
    asked = @urls[params["requestId"]]
    return if asked.nil? || params["canceled"] || GIVEN_UP.match?(params["errorText"].to_s)
    "failed: #{asked} #{params["errorText"]} #{params["blockedReason"]}".strip
  end

  def console(params)
    return unless %w[error assert].include?(params["type"])
    "console: #{params["args"].map { _1["value"] || _1["description"] }.join(" ")}"[0, 600]
  end

  # What the network says is told by the answers themselves.
  def entry(entry)
    "console: #{entry["text"]}"[0, 600] if entry["level"] == "error" && entry["source"] != "network"
  end

  def path(url) = url.to_s.sub(%r{\Ahttps?://[^/]+}, "")[0, 200]
end
