# frozen_string_literal: true

module Fobrel
  module Models
    # A piece of work that somebody began in the tip maker: its pages, every step they took, and at which of them they
    # are now. It is theirs alone.
    class Work < Record
      # Steps that are kept, and how long one that was discarded can be restored.
      MOST = 200
      KEEP = 30.days

      belongs_to :library
      belongs_to :person
      has_many :pages, -> { order(:id) }, class_name: "Fobrel::Models::WorkPage"
      has_many :steps, -> { order(:number) }, class_name: "Fobrel::Models::WorkStep"
      normalizes :name, with: Core::Names.method(:clean)
      validates :name, length: {in: 1..100}

      scope :open, -> { where(thrown_at: nil) }

      # @param file [String] the name of a file
      # @return [String] what the work is called after it
      def self.called(file)
        plain = File.basename(file, ".*").tr("_-", " ").squeeze(" ").strip
        (plain.empty? ? "Work" : plain).sub(/\A./) { _1.upcase }[0, 100]
      end

      # @return [Hash] what is done with its pages, see Core::Tip::Work; "pages" are ids of its pages, in order
      def state = steps.find_by(number: place)&.state || {"pages" => []}

      # @param state [Hash]
      # @param fresh [Boolean] false where it goes on with the last step, such as a slider that is still being dragged
      def step(state, fresh: true)
        steps.where("number > ?", place).delete_all
        if fresh || place.zero?
          update!(place: place + 1)
          steps.create!(number: place, state:)
          steps.where("number <= ?", place - MOST).delete_all
        else
          steps.find_by!(number: place).update!(state:)
          touch
        end
        forget_pages
      end

      # @param by [Integer] −1 goes a step back, 1 a step forth; nothing where there is none
      def go(by)
        found = steps.find_by(number: place + by) or return
        update!(place: found.number)
      end

      # @return [Hash] how many steps can be taken back, and how many done again
      def room = {back: steps.where("number < ?", place).count, forth: steps.where("number > ?", place).count}

      # @param state [Hash]
      # @return [Array<WorkPage>] those the state has, in order
      def pages_of(state, relation = pages)
        found = relation.where(id: state["pages"]).index_by(&:id)
        state["pages"].filter_map { found[_1] }
      end

      private

      # Pages that no step has any more.
      def forget_pages
        pages.where(<<~SQL).delete_all
          id NOT IN (
            SELECT page::bigint FROM work_steps s, jsonb_array_elements_text(s.state -> 'pages') AS page
            WHERE s.work_id = work_pages.work_id
          )
        SQL
      end
    end
  end
end
