# frozen_string_literal: true

require "mail"

module Fobrel
  module Reports
    # What is new for a person, once a day, as a mail (RFC 5322). It is laid into the outbox, from where a gateway of
    # the studio's would send it; Fobrel sends nothing itself.
    class Summary
      DOMAIN = ENV.fetch("FOBREL_MAIL_DOMAIN", "studio.invalid")
      # Lines of one mail; of more, it says how many.
      MOST = 40

      # @return [String] where mails are laid
      def self.outbox = File.join(Fobrel.var, "outbox")

      # Writes one for each person who has something new and wants it.
      #
      # @param day [Date]
      # @return [Array<String>] the files
      def self.write_all(day = Date.current)
        Models::Person.here.order(:id).filter_map { |person| new(person, day).write }
      end

      def initialize(person, day)
        @person = person
        @day = day
      end

      # @return [String, nil] the file; nil where there is nothing to say
      def write
        return if @person.notices_off.include?(Models::Notice::DAILY) || notices.empty?
        FileUtils.mkdir_p(self.class.outbox, mode: 0o700)
        file = File.join(self.class.outbox, "#{@day.iso8601}-#{@person.id}.eml")
        File.write("#{file}.part", mail.to_s, perm: 0o600)
        File.rename("#{file}.part", file)
        file
      end

      private

      # What is still unseen of the last day.
      def notices
        @notices ||= @person.notices.unseen.where(created_at: 1.day.ago..).includes(:library).order(:id).to_a
      end

      def mail
        words = text
        count = notices.size
        to = "#{@person.login.gsub(/[^a-z0-9._-]/, "_")}@#{DOMAIN}"
        Mail.new do
          from "Fobrel <fobrel@#{DOMAIN}>"
          to to
          subject "#{count} new in Fobrel"
          content_type "text/plain; charset=UTF-8"
          body words
        end
      end

      def text
        lines = notices.first(MOST).map { |one|
          "- #{Core::Names.clean(one.text)}\n  #{one.library.name}: /#{one.library_id}#{one.path}"
        }
        more = notices.size - lines.size
        [
          "#{@person.name}, this is new for you since yesterday:",
          "",
          *lines,
          ("… and #{more} more" if more.positive?),
          "",
          "Choose what you get under Notifications, “Notification settings…”."
        ].compact.join("\n")
      end
    end
  end
end
