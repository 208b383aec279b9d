# frozen_string_literal: true

module Fobrel
  module Api
    # What is new, as it happens: a page listens here for the library that it looks at, and for its person's inbox.
    module Live
      extend Sinatra::Extension

      get "/api/libraries/:library/live" do
        id = library.id
        if env["rack.hijack"]
          Hub.here.listen(env["rack.hijack"].call, person_id: person.id, library_id: id)
          halt 200
        end
        # A server that gives no connection away: the page asks now and then instead.
        content_type "text/event-stream"
        halt 200, "retry: 60000\n\n"
      end
    end
  end
end
