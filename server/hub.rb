# frozen_string_literal: true

module Fobrel
  # Tells the pages that listen what is new (server-sent events, HTML Living Standard 9.2). A page's connection is
  # taken from the web server's threads, so that hundreds may listen; one thread of each web process hears the
  # database (see Models::Live) and writes to all of them.
  class Hub
    # A page that listens: whose it is, which library it looks at, its connection, and when it was taken.
    Listener = Struct.new(:person_id, :library_id, :io, :since, keyword_init: true)

    # Now and then something is sent, so that a connection that died is noticed.
    BREATH = 20
    # A page comes anew after so long, and what it may hear is looked at again then.
    LONGEST = 600
    # Of one person in one process; the oldest gives way.
    MOST_EACH = 12
    # Seconds that a page waits for the database to be heard; where it is not, the page comes anew once it is.
    HEARD = 2
    HEAD = "HTTP/1.1 200 OK\r\ncontent-type: text/event-stream\r\ncache-control: no-store\r\n" \
      "x-content-type-options: nosniff\r\nconnection: close\r\n\r\nretry: 3000\n\n"

    # @return [Hub] of this process
    def self.here = @here ||= new

    def initialize
      @listeners = []
      @lock = Mutex.new
      @deaf = true
      @heard = ConditionVariable.new
    end

    # @param io [IO] a connection that nobody else writes to any more
    # @return [void]
    def listen(io, person_id:, library_id:)
      @lock.synchronize do
        @thread = Thread.new { hear } unless @thread&.alive?
        @heard.wait(@lock, HEARD) if @deaf
        # Whoever reads this is listening: no event may fall in between.
        io.write(HEAD)
        own = @listeners.select { |one| one.person_id == person_id }
        close(own.first) if own.size >= MOST_EACH
        @listeners << Listener.new(person_id:, library_id:, io:, since: now)
      end
    rescue SystemCallError
      nil # it has gone already
    end

    # @return [Integer] how many pages listen
    def size = @lock.synchronize { @listeners.size }

    # @param event [Hash] as Models::Live.tell sends it
    def tell(event)
      people, library = event.values_at("people", "library")
      return end_of(people) if event["what"] == Models::Live::ACCESS
      text = "data: #{JSON.generate(event.except("people"))}\n\n"
      @lock.synchronize do
        heard = @listeners.select { |one| people ? people.include?(one.person_id) : one.library_id == library }
        heard.each { |one| send_to(one, text) }
      end
    end

    private

    # A page whose line ends asks for another, and is looked at then.
    def end_of(people)
      @lock.synchronize { @listeners.select { |one| people.include?(one.person_id) }.each { |one| close(one) } }
    end

    def now = Process.clock_gettime(Process::CLOCK_MONOTONIC)

    # Waits for the database; where it has gone, until it is back.
    def hear
      connection = PG.connect(ENV.fetch("DATABASE_URL"))
      connection.exec("LISTEN #{Models::Live::CHANNEL}")
      hears
      loop do
        heard = connection.wait_for_notify(BREATH) { |_, _, text| tell(JSON.parse(text)) }
        breathe unless heard
      end
    rescue PG::Error, JSON::ParserError
      @lock.synchronize { @deaf = true }
      connection&.close rescue nil # rubocop:disable Style/RescueModifier
      sleep 2
      retry
    end

    # What was told while nobody heard may have ended some of these.
    def hears
      @lock.synchronize do
        @listeners.dup.each { |one| close(one) }
        @deaf = false
        @heard.broadcast
      end
    end

    def breathe
      @lock.synchronize do
        @listeners.select { |one| now - one.since > LONGEST }.each { |one| close(one) }
        @listeners.dup.each { |one| send_to(one, ": \n\n") }
      end
    end

    # What a page does not take at once it does not get: it asks by itself when it comes again.
    def send_to(listener, text)
      written = listener.io.write_nonblock(text, exception: false)
      close(listener) unless written == text.bytesize
    rescue IOError, SystemCallError
      close(listener)
    end

    def close(listener)
      @listeners.delete(listener)
      listener.io.close
    rescue IOError, SystemCallError
      nil
    end
  end
end
