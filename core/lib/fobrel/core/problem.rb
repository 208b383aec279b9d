# frozen_string_literal: true

module Fobrel
  module Core
    # Something a person can meet and mend. The message says what happened, what was kept and
    # what to do; it is shown as it stands.
    #
    #   raise Problem, "rope.png is cut off in the middle. Nothing was kept. Export it again."
    class Problem < StandardError
    end
  end
end
