# frozen_string_literal: true

module Fobrel
  module Api
    # How a route answers.
    module Answering
      # @param data [Hash] one of Views
      def answer(data, status = 200)
        content_type :json
        halt status, JSON.generate(data)
      end

      # With the history's line of what was done.
      #
      # @param entry [Models::HistoryEntry]
      # @param more [Hash] what else it tells
      def answer_entry(entry, status = 200, **more) = answer({**more, entry: Views.entry(entry)}, status)

      # Does something to many brushes: at once, or as long work where nobody would wait for it.
      #
      # @param kind [String] of Actions::ForMany::KINDS
      # @param more [Hash] what else is answered
      def answer_for_many(kind, said, status = 200, count: said["preset_ids"].size, **more)
        meant = Actions::ForMany::KINDS.fetch(kind)
        unless Actions::ForMany.long?(meant.each, count)
          return answer_entry(Actions::ForMany.call(kind, library: library, person:, said:), status, **more)
        end
        about = {"deed" => kind, "said" => said, "answer" => more}
        answer_begun(
          Jobs::ChangeMany.begin(
            library: library,
            person:,
            about:,
            message: "#{meant.words} #{count} brushes"
          )
        )
      end

      # Long work that was begun; what comes of it is told by GET /api/tasks/{id}.
      #
      # @param task [Models::Task]
      def answer_begun(task) = answer({begun: Views.task(task.reload)}, 202)

      # Takes a thing away and says so.
      def answer_removed(record) = answer_entry(Actions::Remove.call(record:, person:))

      # @raise [Application::Halt] which answers with the sentence
      def refuse(status, sentence) = raise(Application::Halt.new(status, sentence))

      # @return [String] a picture as an address of its own
      def inline(png) = "data:image/png;base64,#{[png].pack("m0")}"

      # A picture that is made for this moment only.
      #
      # @param png [String]
      def halt_png(png)
        content_type "image/png"
        halt 200, png
      end

      # What never changes under its address.
      #
      # @param bytes [String]
      # @param type [String]
      def answer_forever(bytes, type: "image/png")
        headers "Cache-Control" => "private, max-age=31536000, immutable", "Content-Type" => type
        halt 200, bytes
      end

      # A file to be saved under a name.
      #
      # @param body [String, #each]
      def answer_file(body, name:, type:, size: body.bytesize)
        headers "Content-Type" => type,
          "Content-Length" => size.to_s,
          "Content-Disposition" => "attachment; filename*=UTF-8''#{ERB::Util.url_encode(name)}"
        halt 200, body
      end
    end
  end
end
