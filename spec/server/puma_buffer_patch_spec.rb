# frozen_string_literal: true

require "support/studio"
require "puma/server"
require "puma/log_writer"
require "socket"

RSpec.describe Fobrel::PumaBufferPatch do
  # A thread that is slow to leave a connection that it has handed on.
  let(:slow_to_leave) do
    Module.new { def add(client) = super.tap { sleep 0.3 } }
  end
  # Its first words are written, and its body takes a while.
  let(:slow_body) do
    Class.new do
      def each
        sleep 0.6
        yield "whole"
      end
    end
  end

  def answer_to(app)
    server = Puma::Server.new(app, nil, {min_threads: 2, max_threads: 2, log_writer: Puma::LogWriter.null})
    port = server.add_tcp_listener("127.0.0.1", 0).addr[1]
    server.run
    server.instance_variable_get(:@reactor).singleton_class.prepend(slow_to_leave)
    socket = TCPSocket.new("127.0.0.1", port)
    sleep 0.15 # the connection lies in the reactor, and whoever laid it there has not left
    socket.write("GET / HTTP/1.1\r\nHost: localhost\r\nConnection: close\r\n\r\n")
    socket.read
  ensure
    socket&.close
    server&.stop(true)
  end

  it "sends an answer from its first line on, though another thread only now leaves the connection" do
    said = answer_to(->(_) { [200, {"content-type" => "text/plain"}, slow_body.new] })
    expect(said).to start_with("HTTP/1.1 200 OK\r\n").and include("whole")
  end
end
